import type { Cue, CueWords } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { percent } from '../../kit/format'
import { useBench } from './bench'
import { CueEditor } from './CueEditor'
import { moved, withoutCue } from '../draft/document'
import { PlayCue } from './PlayCue'
import { addCue } from './useBenchKeys'

/** The cues and the answers they ask for; one is open for editing at a time. */
export function CueList() {
  const bench = useBench()
  const open = bench.open.cue
  const setOpen = (cue: string | null) => bench.setOpen({ ...bench.open, cue })
  const { document, rung } = bench
  const words = new Map(bench.plan?.cues.map((cue) => [cue.key, cue]))
  const here = rung.cues.length > 0 ? new Set(rung.cues) : null
  return (
    <div>
      <div className="flex justify-between border-b border-line pb-1">
        <span className="small">Cue and the answer it asks for</span>
        <span className="small">share</span>
      </div>
      <ul>
        {document.cues.map((cue, place) => (
          <li key={cue.key} className="border-b border-line">
            <div className="flex items-center gap-1">
              <CueLine
                cue={cue}
                faint={here !== null && !here.has(cue.key)}
                open={open === cue.key}
                toggle={() => setOpen(open === cue.key ? null : cue.key)}
                remove={() => bench.replace(withoutCue(document, place))}
                move={(by) => bench.set(['cues'], moved(document.cues, place, place + by))}
              />
              {words.has(cue.key) && (
                <PlayCue document={document} words={words.get(cue.key) as CueWords} />
              )}
            </div>
            {open === cue.key && <CueEditor cue={cue} place={place} />}
          </li>
        ))}
      </ul>
      {document.cues.length === 0 && (
        <p className="py-2">
          {rung.guide
            ? 'No cue: this rung is counted or held.'
            : 'No cue yet. Add the first: a sound or a light, and what it asks for.'}
        </p>
      )}
      <button
        className="btn btn-sm btn-quiet mt-2"
        onClick={() => addCue(bench)}
        disabled={document.cues.length >= 24}
      >
        Add a cue <kbd className="kbd-hint">C</kbd>
      </button>
    </div>
  )
}

type LineProps = {
  cue: Cue
  faint: boolean
  open: boolean
  toggle: () => void
  remove: () => void
  move: (by: -1 | 1) => void
}

function CueLine({ cue, faint, open, toggle, remove, move }: LineProps) {
  const { plan, place, faults, document } = useBench()
  const words = plan?.cues.find((named) => named.key === cue.key)
  const number = document.cues.indexOf(cue)
  const wrong = faults.some((fault) => fault.where.startsWith(`cues.${number}.`))
  const keys = (event: React.KeyboardEvent) => {
    if (event.key === 'Delete') remove()
    else if (event.altKey && event.key === 'ArrowUp') move(-1)
    else if (event.altKey && event.key === 'ArrowDown') move(1)
    else return
    event.preventDefault()
  }
  return (
    <button
      id={`cue-${cue.key}`}
      data-where={`cues.${number}`}
      aria-expanded={open}
      onClick={toggle}
      onKeyDown={keys}
      className={`flex w-full cursor-pointer items-center gap-2.5 py-1.5 text-left hover:bg-wash ${faint ? 'hatched' : ''}`}
    >
      <CueMark mark={cue.mark} />
      <span className="flex-1 leading-snug">
        {words?.name ?? 'new cue'} <span className="text-soft">→</span>{' '}
        <b>{words ? (words.chains[0] ?? 'don’t react') : '…'}</b>
        {words && words.chains.length > 1 && (
          <span title={words.asks}>
            {' '}
            or {words.chains.length - 1} {words.chains.length > 2 ? 'others' : 'other'}
          </span>
        )}
        {words?.timed_by === 'not_sensed' && (
          <span className="small"> · timed only by a camera or a home key</span>
        )}
        {words?.timed_by === 'counter' && <span className="small"> · timed by the counter</span>}
        {wrong && <span className="small font-semibold"> · look again</span>}
      </span>
      <span className="figures text-base">{faint ? '–' : percent(words?.share[place])}</span>
    </button>
  )
}
