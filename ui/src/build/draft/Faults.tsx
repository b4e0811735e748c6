import { useBench } from '../solo/bench'
import { factOf } from '../solo/RungSheet'
import { mended } from './document'
import { focusField } from './fieldFocus'

/** What is wrong with the drill, where, and the mend to take. */
export function Faults() {
  const { faults, document, replace, ...bench } = useBench()
  /** Open what holds the field of a fault, and put the focus on it. */
  const lead = (where: string) => {
    const [of, number = '', field = ''] = where.split('.')
    if (of === 'rungs') {
      bench.chooseRung(Number(number))
      bench.setOpen({ ...bench.open, fact: factOf(field) })
    } else if (of === 'cues') {
      bench.setOpen({ ...bench.open, cue: document.cues[Number(number)]?.key ?? null })
    }
    focusField(where)
  }
  if (faults.length === 0) return null
  const ordered = [...faults].sort(
    (one, other) => Number(one.level === 'hint') - Number(other.level === 'hint'),
  )
  return (
    <ul className="mt-auto flex flex-col gap-2" aria-label="Faults">
      {ordered.map((fault) => (
        <li
          key={fault.where + fault.what}
          className={`flex items-start gap-4 border-l-4 bg-wash px-4 py-2.5 ${fault.level === 'stop' ? 'border-ink' : 'border-edge'}`}
        >
          <button className="flex-1 cursor-pointer text-left" onClick={() => lead(fault.where)}>
            <b>{fault.level === 'stop' ? 'No plan' : 'Look again'}</b>
            <span className="small"> · {placeOf(fault.where, document.rungs)}</span>
            <br />
            {fault.what}
          </button>
          {fault.mend && (
            <button
              className="btn btn-sm"
              onClick={() => fault.mend && replace(mended(document, fault.mend))}
            >
              {fault.mend.label}
            </button>
          )}
        </li>
      ))}
    </ul>
  )
}

const NAMES: Record<string, string> = {
  rungs: 'rung',
  cues: 'cue',
  rounds: 'rounds',
  order: 'order',
  asks: 'chain',
  steps: 'step',
}

/** A place of the document in words: "rung 2, overlap". */
function placeOf(where: string, rungs: { name: string }[]): string {
  const parts = where.split('.')
  const words: string[] = []
  for (let place = 0; place < parts.length; place++) {
    const part = parts[place] ?? ''
    const next = parts[place + 1]
    const name = NAMES[part] ?? part.replace(/_s$/, '').replaceAll('_', ' ')
    if (next !== undefined && /^\d+$/.test(next)) {
      const rung = part === 'rungs' ? rungs[Number(next)]?.name : undefined
      words.push(`${name} ${Number(next) + 1}${rung ? ` (${rung})` : ''}`)
      place++
    } else words.push(name)
  }
  return words.join(', ')
}
