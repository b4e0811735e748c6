import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { useNavigate } from 'react-router'

import { ApiError, NoConnection, writeHeaders } from '../../api/client'
import type { Problem } from '../../api/types'

/** Bring a drill file in: whole, or not at all and with the reason. */
export function BringIn() {
  const input = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const bring = useMutation({
    mutationFn: send,
    onSuccess: async (id) => {
      await queries.invalidateQueries({ queryKey: ['drills'] })
      await navigate(`/build?drill=${id}`)
    },
  })
  return (
    <span className="flex flex-col items-end">
      <button className="btn" onClick={() => input.current?.click()}>
        Import
      </button>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        className="hidden"
        aria-label="Drill file"
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) bring.mutate(file)
          event.target.value = ''
        }}
      />
      {bring.error && (
        <span
          role="alert"
          className="max-w-96 border-l-4 border-ink pl-2 text-[13px] font-semibold"
        >
          Nothing was imported. {bring.error.message}
        </span>
      )}
    </span>
  )
}

async function send(file: File): Promise<string> {
  const id = crypto.randomUUID()
  let answer: globalThis.Response
  try {
    answer = await fetch(`/api/drills/${id}/file`, {
      method: 'POST',
      headers: { ...writeHeaders(), 'Content-Type': 'application/json' },
      body: await file.text(),
    })
  } catch {
    throw new NoConnection()
  }
  if (!answer.ok) throw new ApiError(answer.status, (await answer.json()) as Problem)
  return id
}
