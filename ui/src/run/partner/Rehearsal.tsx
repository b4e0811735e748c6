import type { PairRun } from '../../api/types'
import { Exchanges } from '../../kit/Exchanges'
import { WalkThrough } from './WalkThrough'

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
      <WalkThrough run={run} />
      {said.length > 0 && (
        <dl className="facts mat-said">
          {said.map(([name, words]) => (
            <div key={name} className="contents">
              <dt>{name}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      )}
      {run.card.length > 1 && (
        <details>
          <summary className="cursor-pointer">All {run.card.length} exchanges</summary>
          <Exchanges lines={run.card} className="sheet" />
        </details>
      )}
    </section>
  )
}
