import type { Mend, SchoolLine } from '../../api/types'
import { TextField } from '../../kit/fields'
import { without, type Path } from '../draft/document'

type Followed = { question: string; follows: string; why: string }
type Props = {
  followed: readonly Followed[]
  lines: readonly SchoolLine[]
  more: readonly Mend[]
  set: (path: Path, value: unknown) => void
  take: (mend: Mend) => void
}

/** Where coaches disagree: which school the drill follows and why; the other is one press away. */
export function Schools({ followed, lines, more, set, take }: Props) {
  return (
    <section aria-label="Where coaches disagree" className="flex flex-col gap-2">
      <span className="small">where coaches disagree</span>
      {lines.map((line, place) => (
        <div key={line.question} className="border-b border-line pb-2">
          <p className="flex flex-wrap items-baseline gap-x-2">
            <span className="mr-auto">
              {line.asked}: <b>{line.follows}</b>
            </span>
            {line.others.map((other) => (
              <button key={other.label} className="btn btn-sm" onClick={() => take(other)}>
                Instead: {other.label}
              </button>
            ))}
            <button
              className="btn btn-sm btn-quiet"
              aria-label={`Say nothing of: ${line.asked}`}
              onClick={() => set(['schools'], without(followed, place))}
            >
              Remove
            </button>
          </p>
          <TextField
            label="because"
            value={followed[place]?.why ?? line.why}
            where={`schools.${place}.why`}
            change={(why) => set(['schools', place, 'why'], why)}
          />
        </div>
      ))}
      {more.length > 0 && (
        <select
          aria-label="Say what it follows"
          className="select w-auto self-start"
          value=""
          onChange={(event) => {
            const mend = more.find((one) => one.label === event.target.value)
            if (mend) take(mend)
          }}
        >
          <option value="">Say more of it…</option>
          {more.map((mend) => (
            <option key={mend.label}>{mend.label}</option>
          ))}
        </select>
      )}
    </section>
  )
}
