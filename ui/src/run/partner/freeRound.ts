/** A free round: nothing is fed, a clock runs, and chances of drilled answers are tapped. */
import type { PairRun } from '../../api/types'
import type { MatAccess } from './access'
import type { Chance, Recording } from './recording'

type Parts = {
  say: (words: string) => void
  note: (changes: Partial<Pick<Recording, 'chances'>>) => void
  keepTime: () => void
}

export class FreeRound {
  constructor(
    private readonly run: PairRun,
    private readonly mat: MatAccess,
    private readonly parts: Parts,
  ) {}

  begin(lasts_s: number): void {
    if (this.mat.state().phase !== 'over' || this.mat.state().free_s !== null) return
    this.mat.log({ kind: 'free_begun', at_ms: this.mat.clock.now(), lasts_s })
    this.mat.set({ free_s: lasts_s })
    this.parts.keepTime()
  }

  end(by: 'tap' | 'time'): void {
    if (this.mat.state().free_s === null) return
    this.mat.log({ kind: 'free_over', at_ms: this.mat.clock.now(), by })
    this.mat.set({ free_s: null })
    this.parts.say('time')
  }

  /** So much of it has passed, s. */
  passed(passed_s: number): void {
    const { free_s } = this.mat.state()
    if (free_s === null) return
    if (free_s > passed_s) this.mat.set({ free_s: free_s - passed_s })
    else this.end('time')
  }

  /** A drilled answer had a chance, and turned up or did not. */
  chance(chance: Chance): void {
    const { partner, answer, used } = chance
    const kind = used ? 'carried_over' : 'chance_missed'
    const round = this.run.sheet.rounds.length
    this.mat.log({ kind, at_ms: this.mat.clock.now(), round, partner, answer })
    this.keep([...this.mat.state().chances, chance])
  }

  /** Take the last one back. */
  undo(): void {
    const { chances } = this.mat.state()
    if (chances.length === 0) return
    this.mat.log({ kind: 'undone', at_ms: this.mat.clock.now() })
    this.keep(chances.slice(0, -1))
  }

  private keep(chances: readonly Chance[]): void {
    this.mat.set({ chances })
    this.parts.note({ chances })
  }
}
