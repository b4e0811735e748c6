import type { PairRun } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'

/** Before the first round: what to warm up, where to look, and each exchange with its answer. */
export function Rehearsal({ run }: { run: PairRun }) {
  const { document } = run
  const said = [
    ['Why', document.reason],
    ['Warm up', document.warm_up],
    ['Look', document.look],
    ['Guard', document.guard],
    ['Third', document.third],
    ['Watch for', document.watch.join(' · ')],
    ...run.schools.map((line) => [line.asked, `${line.follows}. ${line.why}`] as const),
  ].filter(([, words]) => words)
  return (
    <section aria-label="Rehearsal" className="mat-rehearsal">
      <h2 className="text-xl">First slowly, without marks</h2>
      {said.length > 0 && (
        <dl className="facts">
          {said.map(([name, words]) => (
            <div key={name} className="contents">
              <dt>{name}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      )}
      <table className="sheet">
        <thead>
          <tr>
            <th>Exchange</th>
            <th>feeder</th>
            <th>defender</th>
          </tr>
        </thead>
        <tbody>
          {run.card.map((line) => (
            <tr key={line.call}>
              <td>
                <span className="flex items-center gap-2">
                  <CueMark mark={line.mark} size={18} /> <b>{line.call}</b>
                </span>
              </td>
              <td>{line.feeder.join(' → ') || '–'}</td>
              <td>{line.defender.join(' → ') || '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <details>
        <summary className="cursor-pointer">How each is done</summary>
        <dl className="facts">
          {run.ways.map((way) => (
            <div key={way.name} className="contents">
              <dt>{way.name}</dt>
              <dd>
                {way.right_way}
                {way.usual_fault && (
                  <span className="small block">Common mistake: {way.usual_fault}</span>
                )}
              </dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  )
}
