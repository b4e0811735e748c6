/** A run at home: begun on this phone from what was planned ahead, recorded like any other. */
import type { Event, HomePlanned, HomeView, HomeWord, RunView } from '../api/types'
import type { Beside } from '../run/floor/usePlayer'
import { RecorderStore } from '../run/player/store'
import { RECORDINGS, type Begun, type Keep } from './keep'
import { RoundPace } from './roundPace'
import { destinationOf } from './sending'
import type { Answering } from './useAnswering'

type Wanted = {
  token: string
  keep: Keep
  view: HomeView
  planned: HomePlanned
  answering: Answering
}

/** view: as the player has it. close: say what it was like, and that nothing more comes. */
export type HomeRun = {
  planned: HomePlanned
  view: RunView
  beside: Beside
  close: (word: HomeWord | null) => Promise<void>
}

/** Begin a planned run, or go on with the one that was begun here and cut off. */
export async function beginHere(wanted: Wanted): Promise<HomeRun> {
  const { token, keep, planned } = wanted
  const all = await keep.begun()
  const cutOff = all.find((one) => one.planned_id === planned.id && !one.ended)
  const begun = cutOff ?? (await beginNew(wanted))
  const view = runView(wanted, begun)
  const drill = planned.drill
  const pace = new RoundPace(planned, view, await keep.pace(token, drill), (moved) => {
    void keep.keepPace(token, drill, moved)
  })
  const logs = (event: Event) => {
    pace.logs(event)
    const { type } = event
    if (type === 'round_end' && event.reason === 'time')
      void keep.note(begun.run, { rounds: event.round })
    if (type === 'finish')
      void keep.note(begun.run, { ended: true, finished: event.reason === 'complete' })
  }
  const to = destinationOf(keep, begun)
  return {
    planned,
    view,
    beside: { to, laidOut: pace.laidOut, logs, database: RECORDINGS },
    close: async (word) => {
      if (word) pace.said(word)
      await keep.note(begun.run, { said: word, ended: true })
    },
  }
}

async function beginNew({ token, keep, planned, answering }: Wanted): Promise<Begun> {
  const begun: Begun = {
    run: crypto.randomUUID(),
    token,
    recorder: crypto.randomUUID(),
    planned_id: planned.id,
    practice_id: planned.practice_id,
    number: planned.number,
    measured: answering !== 'follow',
    inputs: answering === 'follow' ? [] : [answering],
    began_at: Date.now(),
    rounds: 0,
    said: null,
    ended: false,
    finished: false,
    told: '',
  }
  const { run, recorder } = begun
  const store = await RecorderStore.open(RECORDINGS)
  await store.keep({ run, recorder, epoch: -1, next: 0, round: 0, finished: false })
  await keep.begin(begun)
  return begun
}

function runView({ view, planned }: Wanted, begun: Begun): RunView {
  const drill = view.drills.find(({ key }) => key === planned.drill)
  if (!drill) throw new Error('This drill is not on this phone. Connect once, then come back.')
  const { colours, loudness, rehearsal_step_s, home_key, tap_key } = view
  const { document, drill_id, version, cues, controls, lead_side, sounds } = drill
  const { played, pictures, shown } = drill
  return {
    id: begun.run,
    student: view.first_name,
    ...{ document, drill_id, version, cues, controls, lead_side, sounds, played, pictures, shown },
    ...{ colours, loudness, rehearsal_step_s, home_key, tap_key },
    plan: planned.plan,
    beside: planned.beside,
    signals: [],
    flash_s: planned.flash_s,
    state: 'open',
    next_batch: 0,
    started_at: new Date(begun.began_at).toISOString(),
    device: { ...view.device, inputs: begun.inputs },
  }
}
