/** Turns, and how fast each is fed: at the pace of who defends in it. */
import type { PairRun, TempoSuggestion } from '../../api/types'
import type { MatAccess } from './access'
import { allowedTempo, placeAt, rungOf, type FedTurn } from './course'
import type { Heard } from './heard'
import type { Recording } from './recording'

export class Pace {
  constructor(
    private readonly run: PairRun,
    private readonly mat: MatAccess,
    private readonly note: (changes: Partial<Pick<Recording, 'bpm' | 'paces'>>) => void,
    private readonly heard: Pick<Heard, 'jump' | 'interrupt'>,
  ) {}

  /** The coach sets the tempo; the tempo that is suggested is taken the same way. */
  tempo(bpm: number): void {
    if (this.mat.state().bpm !== null) this.setTempo(allowedTempo(bpm, this.run), 'coach')
  }

  /** A turn begins, at the pace of who defends in it. jumps: the sheet goes on where it begins. */
  begin(turn: FedTurn, jumps: boolean): void {
    const { round, paces, bpm } = this.mat.state()
    const sheet_s = jumps ? turn.from_s : this.mat.state().sheet_s
    const { defender } = turn
    this.mat.log({ kind: 'turn_begun', at_ms: this.mat.clock.now(), round, sheet_s, defender })
    if (jumps) this.heard.jump(sheet_s)
    const before = sheet_s > 0 ? this.mat.state().current : null
    const place = placeAt(this.run.sheet.rounds[round - 1], sheet_s, undefined, before)
    this.mat.set({ sheet_s, turnLeft_s: turn.lasts_s, before, ...place, suggestion: null })
    const pace = paces[defender]
    if (pace !== undefined && pace !== bpm) this.setTempo(pace, 'turn')
  }

  /** What the rung's rule suggests now: taken at once where the rule sets the tempo. */
  suggested(climb: TempoSuggestion | null): void {
    const { phase, bpm } = this.mat.state()
    if (climb && rungOf(this.run)?.climb.rule === 'by_rule' && phase === 'round') {
      if (climb.bpm !== bpm) this.setTempo(climb.bpm, 'rule')
    } else this.mat.set({ suggestion: climb })
  }

  /** The tempo is the pace of who defends now; without paces both have the same. */
  private setTempo(bpm: number, by: 'coach' | 'rule' | 'turn'): void {
    const { turn, sheet_s } = this.mat.state()
    const partner = this.mat.state().paces.length > 0 ? (turn?.defender ?? null) : null
    const paces = this.mat.state().paces.map((pace, place) => (place === partner ? bpm : pace))
    this.mat.log({ kind: 'tempo_set', at_ms: this.mat.clock.now(), bpm, by, partner })
    this.note({ bpm, paces })
    this.heard.interrupt(sheet_s)
    this.mat.set({ bpm, paces, suggestion: null })
  }
}
