import type { Readout } from '../../api/types'
import { BaselineSheet } from './BaselineSheet'
import { Course } from './Course'
import { Differences } from './Differences'
import { Distribution } from './Distribution'
import { Groups } from './Groups'

/** What the times of a run say. A baseline is read as one: its rounds are not alike. */
export function Times({ readout }: { readout: Readout }) {
  const { baseline, run, document, responses } = readout
  if (baseline) {
    return (
      <>
        <BaselineSheet baseline={baseline} />
        <Groups readout={readout} />
        <div className="max-w-xl">
          <Distribution readout={readout} />
        </div>
      </>
    )
  }
  return (
    <>
      <Groups readout={readout} />
      <div className="grid gap-x-8 gap-y-4 border-t border-line pt-3 xl:grid-cols-[1.6fr_1fr]">
        <Differences readout={readout} />
        <Distribution readout={readout} />
      </div>
      <Course responses={responses} goal_s={document.rungs[run.rung - 1]?.goal_window_s ?? null} />
    </>
  )
}
