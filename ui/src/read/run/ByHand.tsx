import type { SubmitEvent } from 'react'

import type { Drill } from '../../api/types'

type Props = {
  drill: Drill
  rung: number
  window_s: number
  busy: boolean
  set: (rung: number, window_s: number) => void
  cancel: () => void
}

/** Rung and window by the coach's own word. */
export function ByHand({ drill, rung, window_s, busy, set, cancel }: Props) {
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    set(Number(form.get('rung')), Number(form.get('window')))
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col gap-1">
        <span className="small">rung</span>
        <select name="rung" className="select w-40" defaultValue={rung}>
          {drill.rungs.map((rung, index) => (
            <option key={rung.name} value={index + 1}>
              {index + 1} {rung.name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">window, s</span>
        <input
          name="window"
          type="number"
          className="input figures w-24 text-base"
          defaultValue={window_s.toFixed(2)}
          min={drill.pace.least_s}
          max={drill.pace.most_s}
          step={0.01}
          required
        />
      </label>
      <button className="btn btn-primary" disabled={busy}>
        Set
      </button>
      <button type="button" className="btn btn-quiet" onClick={cancel}>
        Cancel
      </button>
    </form>
  )
}
