/**
 * Lays the rounds of a run at home out with the window that the table of the server says: after each
 * round by how many cues were answered in time, after the drill by what was said of it. Which answer
 * was right is told by the server, once it has them.
 */
import type { Event, HomePlanned, HomeWord, RunView } from '../api/types'
import type { Pace } from './keep'

type Open = { t_ms: number; ends_ms: number }

export class RoundPace {
  private by: number
  private cues: Open[] = []
  private inputs: number[] = []
  private readonly asking: ReadonlySet<string>

  constructor(
    private readonly planned: HomePlanned,
    view: Pick<RunView, 'document'>,
    pace: Pace | undefined,
    private readonly moved: (pace: Pace) => void,
  ) {
    this.asking = new Set(view.document.cues.filter((cue) => cue.asks.length).map((cue) => cue.key))
    this.by = pace?.window_s === planned.plan.window_s ? pace.by : 0
  }

  /** The cues of a round, as it begins now. */
  readonly laidOut = (round: number) => this.step?.rounds[round - 1]

  /** The answer window (s) of the next round. */
  get window_s(): number {
    return this.step?.window_s ?? this.planned.plan.window_s
  }

  /** Follow a run as it is logged. */
  readonly logs = (event: Event): void => {
    if (event.type === 'round_start') [this.cues, this.inputs] = [[], []]
    else if (event.type === 'cue' && this.asking.has(event.cue)) {
      this.cues.push({ t_ms: event.t_ms, ends_ms: event.t_ms + event.window_ms })
    } else if (event.type === 'input' && event.edge !== 'up') this.inputs.push(event.t_ms)
    else if (event.type === 'round_end' && event.reason === 'time') this.afterRound()
  }

  /** After the drill. */
  said(word: HomeWord): void {
    this.move(this.planned.ahead.said[word] ?? 0)
  }

  private afterRound(): void {
    if (this.cues.length === 0) return
    // Not as they come: a cue may be logged after its answer.
    const inTime = this.cues.filter(({ t_ms, ends_ms }) =>
      this.inputs.some((input_ms) => input_ms >= t_ms && input_ms <= ends_ms),
    )
    const share = inTime.length / this.cues.length
    const move = this.planned.ahead.moves.find(({ at_least }) => share >= at_least)
    this.move(move?.by ?? 0)
  }

  private get step() {
    const { start, steps } = this.planned.ahead
    return steps[start + this.by]
  }

  private move(by: number): void {
    const { start, steps } = this.planned.ahead
    this.by = Math.min(steps.length - 1 - start, Math.max(-start, this.by + by))
    this.moved({ window_s: this.planned.plan.window_s, by: this.by })
  }
}
