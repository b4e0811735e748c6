import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../../api/client'
import type { Drill, LadderView } from '../../api/types'
import { Fault } from '../../kit/notes'
import { seconds } from '../../kit/format'
import { ByHand } from './ByHand'

type Props = { student_id: string; drill_id: string; ladder: LadderView; drill: Drill }
export type Choice = { kind: 'taken' | 'by_hand'; rung: number; window_s: number }

/** Windows are shown to a hundredth of a second. */
const SAME_S = 0.006

/** What is next and why, as a sentence with two buttons. */
export function Next({ student_id, drill_id, ladder, drill }: Props) {
  const queries = useQueryClient()
  const [byHand, setByHand] = useState(false)
  const choose = useMutation({
    mutationFn: (body: Choice) =>
      take(
        api.POST('/api/students/{student_id}/ladders/{drill_id}/choices', {
          params: { path: { student_id, drill_id } },
          body,
        }),
      ),
    onSuccess: async () => {
      setByHand(false)
      await queries.invalidateQueries()
    },
  })
  const { suggestion } = ladder
  const taken =
    ladder.rung === suggestion.rung && Math.abs(ladder.window_s - suggestion.window_s) < SAME_S
  return (
    <section aria-label="Next" className="flex flex-col gap-3">
      <p className="small">Next</p>
      <p>
        <b>{headline(suggestion, drill)}</b> {suggestion.reason}{' '}
        {suggestion.rule && suggestion.kind !== 'hold' && (
          <span className="small">({suggestion.rule})</span>
        )}
      </p>
      <Fault error={choose.error} />
      {byHand ? (
        <ByHand
          drill={drill}
          rung={ladder.rung}
          window_s={ladder.window_s}
          busy={choose.isPending}
          set={(rung, window_s) => choose.mutate({ kind: 'by_hand', rung, window_s })}
          cancel={() => setByHand(false)}
        />
      ) : (
        <div className="flex flex-wrap items-center gap-2">
          <button
            className={`btn ${taken ? 'btn-quiet' : 'btn-primary'}`}
            disabled={choose.isPending || (taken && ladder.by === 'taken')}
            onClick={() =>
              choose.mutate({
                kind: 'taken',
                rung: suggestion.rung,
                window_s: suggestion.window_s,
              })
            }
          >
            Use this
          </button>
          <button className="btn btn-quiet" onClick={() => setByHand(true)}>
            Set it myself
          </button>
          <span className="small">{standing(ladder, drill)}</span>
        </div>
      )}
    </section>
  )
}

function headline(suggestion: LadderView['suggestion'], drill: Drill): string {
  const led = drill.rungs[suggestion.rung - 1]?.guide
  const window = led
    ? { count: 'counted', hold: 'held' }[led.kind]
    : `window ${seconds(suggestion.window_s)}`
  const words = {
    start: `Begin on rung ${suggestion.rung}, ${window}.`,
    hold: `Stay on rung ${suggestion.rung}, ${window}.`,
    less_help: `Less help on rung ${suggestion.rung}, ${window}.`,
    next: `On to rung ${suggestion.rung}, ${window}.`,
    gentler: `A gentler step: rung ${suggestion.rung}, ${window}.`,
    own_goal: `A goal of their own, then rung ${suggestion.rung}, ${window}.`,
    back: `Back to rung ${suggestion.rung}, ${window}.`,
  }
  return words[suggestion.kind]
}

/** What the next run starts with, and whether the coach said so. */
function standing(ladder: LadderView, drill: Drill): string {
  const { rung, window_s, by } = ladder
  const led = drill.rungs[rung - 1]?.guide
  const next = `next run: rung ${rung}${led ? '' : `, ${seconds(window_s)}`}`
  return by === 'by_hand' ? `set by you; ${next}` : next
}
