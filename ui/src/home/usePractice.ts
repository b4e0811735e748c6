/** What the link opens, what was begun here, and how far all that has come to the server. */
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useState } from 'react'

import { figuresQuery } from '../api/queries'
import type { HomeView, Stance } from '../api/types'
import { fetchSounds, fetchView, noRoom, OpensNothing, setSoundOnly } from './download'
import { Keep, type Begun } from './keep'
import { sendAll, unsent } from './sending'

/**
 * refused: the link opens nothing. online: the server answered last. unsent: runs that are not whole
 * there. now_ms: when it was last looked at what is kept here. missing: sounds that could not be loaded; null: being loaded. noRoom: why not to begin.
 */
export type Practice = {
  keep: Keep
  view: HomeView | null
  begun: Begun[]
  refused: string
  online: boolean
  unsent: number
  missing: number | null
  noRoom: string
  now_ms: number
}

const AGAIN_MS = 60_000
/** While something is still to go out: another page of this phone may have held it. */
const SOON_MS = 4000

/** busy: a run is on, so nothing is fetched and nothing sent but by the run itself. */
export function usePractice(token: string, busy: boolean) {
  const queries = useQueryClient()
  const [practice, set] = useState<Practice | null>(null)
  const change = useCallback(
    (changes: Partial<Practice>) => set((now) => now && { ...now, ...changes }),
    [],
  )

  /** Look at what is kept here. */
  const look = useCallback(async () => {
    const keep = await Keep.open()
    const view = (await keep.view(token)) ?? null
    // A family may practise on one phone: what is of this link, or was planned for its student.
    const planned = new Set(view?.planned.map(({ id }) => id))
    const begun = (await keep.begun()).filter(
      (one) => one.token === token || planned.has(one.planned_id),
    )
    const left = await unsent(keep)
    const now_ms = Date.now()
    const first = { refused: '', online: false, missing: null, noRoom: '' }
    set((now) => ({ ...first, ...now, keep, view, begun, unsent: left, now_ms }))
    return keep
  }, [token])

  const renew = useCallback(async () => {
    const keep = await look()
    change({ unsent: await sendAll(token, keep), noRoom: await noRoom() })
    try {
      const view = await fetchView(token, keep)
      change({ view, online: true, refused: '' })
      change({ missing: await fetchSounds(view) })
      await keep.forgetOld(Date.now())
    } catch (error) {
      if (error instanceof OpensNothing) change({ refused: error.message, online: true })
      else change({ online: false })
    }
    await look()
  }, [token, look, change])

  const left = practice?.online === true && practice.unsent > 0 && practice.refused === ''
  useEffect(() => {
    if (busy || !left) return
    const timer = setInterval(() => void renew(), SOON_MS)
    return () => clearInterval(timer)
  }, [busy, left, renew])

  const view = practice?.view
  useEffect(() => {
    for (const [stance, figures] of Object.entries(view?.figures ?? {}))
      queries.setQueryData(figuresQuery(stance as Stance).queryKey, figures)
  }, [queries, view])

  useEffect(() => {
    if (busy) return
    const now = () => void renew()
    const shown = () => {
      if (!document.hidden) now()
    }
    now()
    const timer = setInterval(now, AGAIN_MS)
    addEventListener('online', now)
    document.addEventListener('visibilitychange', shown)
    return () => {
      clearInterval(timer)
      removeEventListener('online', now)
      document.removeEventListener('visibilitychange', shown)
    }
  }, [busy, renew])

  const soundOnly = (on: boolean) => {
    void setSoundOnly(token, on)
      .then(renew)
      .catch(() => change({ online: false }))
  }
  return { practice, look, soundOnly }
}
