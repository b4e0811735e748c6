/**
 * A partner run on the mat: its clock, what is fed, and the coach's marks. No React in here.
 *
 * The sheet's time follows the tempo: at twice the sheet's tempo it passes twice as fast.
 */
import type { PairMark, PairRun } from '../../api/types'
import type { MatAccess } from './access'
import { RunClock } from './clock'
import { rolesOf, rungOf } from './course'
import { Away } from './away'
import { FreeRound } from './freeRound'
import { HeadKnocks } from './headKnocks'
import { Keeper } from './resumePoint'
import { Heard, SPOKEN } from './heard'
import { Marks } from './marks'
import { MarkRecorder } from './recorder'
import { Pace } from './pace'
import { afterTime } from './passing'
import { MatSounds } from './sounds'
import { firstState, freshRound, resumePoint, recalled, type MatState } from './state'
import { Relay } from './roundPosition'
import { openRecording } from './store'
import { Strikes } from './strikes'
import { NO_TAPS } from './taps'
import { Ticker } from '../player/ticker'

const TICK_MS = 50

export class Mat {
  state: MatState
  /** What each passage is called to the feeder. */
  readonly calls: ReadonlyMap<string, string>
  private readonly listeners = new Set<() => void>()
  private readonly sounds = new MatSounds()
  private recorder: MarkRecorder | null = null
  private relay: Relay | null = null
  private keeper: Keeper | null = null
  private readonly ticker = new Ticker(TICK_MS, (now_ms, passed_s) => this.tick(now_ms, passed_s))
  private readonly clock = new RunClock()
  private readonly heard: Heard
  readonly strikes: Strikes
  readonly marks: Marks
  readonly pace: Pace
  readonly free: FreeRound
  readonly headKnocks: HeadKnocks
  private readonly away: Away

  constructor(readonly run: PairRun) {
    this.calls = new Map(Object.entries(run.calls))
    this.heard = new Heard(run, this.sounds, this.calls)
    const access: MatAccess = {
      state: () => this.state,
      set: (changes) => this.set(changes),
      log: (mark) => this.log(mark),
      clock: this.clock,
    }
    this.marks = new Marks(run, access)
    this.pace = new Pace(run, access, (changes) => this.recorder?.note(changes), this.heard)
    this.away = new Away(access)
    this.free = new FreeRound(run, access, {
      say: (words) => this.sounds.say(words),
      note: (changes) => this.recorder?.note(changes),
      keepTime: () => this.ticker.start(),
    })
    this.headKnocks = new HeadKnocks(run, access, {
      pause: () => this.pause(),
      stop: () => this.ticker.stop(),
      keepTime: () => this.keepTime(),
      note: (knocked) => this.recorder?.note({ knocked }),
    })
    this.strikes = new Strikes(
      run,
      this.sounds,
      () => rolesOf(this.state.turn, this.state.current),
      (struck) => this.marks.struck(struck),
      (hearing) => this.set({ hearing }),
    )
    this.state = { ...firstState(run), hearing: this.strikes.hearing }
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  get rung() {
    return rungOf(this.run)
  }

  /** Open what was kept here. Throws `Elsewhere` when another tab or device marks the run. */
  async open(signal: AbortSignal): Promise<void> {
    const { store, kept } = await openRecording(this.run.id, signal)
    this.clock.began_ms = kept.began_ms
    this.recorder = new MarkRecorder(
      store,
      kept,
      (ack) => this.pace.suggested(ack.climb ?? null),
      () => this.set({ line: this.recorder?.line ?? 'sent' }),
    )
    this.relay = new Relay(this.run.id, kept.recorder)
    this.keeper = new Keeper((going) => this.recorder?.note({ going }))
    const going = resumePoint(kept)
    if (going?.running) this.log({ kind: 'paused', at_ms: going.at_ms })
    this.set(recalled(this.run, kept))
    if (this.state.phase === 'paused') this.keepTime()
    void this.recorder.seal()
    void this.sounds.load([...this.calls.values(), ...SPOKEN], this.run.sounds)
  }

  close(): void {
    this.ticker.close()
    this.recorder?.close()
    this.relay?.close()
    this.strikes.close()
    this.sounds.close()
    this.away.close()
  }

  /** Begin the round that is next. */
  begin(): void {
    void this.sounds.resume()
    const { round } = this.state
    this.recorder?.note({ round })
    this.log({ kind: 'round_begun', at_ms: this.clock.now(), round })
    this.heard.signal(round, 'begins')
    this.set({ phase: 'round', taps: NO_TAPS, ...freshRound(this.run, round) })
    if (this.state.turn) this.pace.begin(this.state.turn, true)
    this.keepTime()
  }

  pause(): void {
    const { phase } = this.state
    if (phase === 'round') {
      this.ticker.now()
      this.heard.interrupt(this.state.sheet_s)
      this.log({ kind: 'paused', at_ms: this.clock.now() })
      this.set({ phase: 'paused' })
    } else if (phase === 'paused') {
      void this.sounds.resume()
      this.ticker.forget()
      this.log({ kind: 'resumed', at_ms: this.clock.now() })
      this.set({ phase: 'round', away: null })
    }
  }

  /** End the round, or the run where it was the last. */
  stop(): void {
    if (this.state.phase === 'round' || this.state.phase === 'paused') this.endRound()
  }

  /** No more rounds: what was marked is sent with the last batch. */
  finish(): Promise<void> {
    this.free.end('tap')
    this.ticker.stop()
    if (this.state.knocked?.phase === 'paused') this.roundOver()
    this.set({ phase: 'over' })
    return this.recorder?.seal(true) ?? Promise.resolve()
  }

  /** Louder or softer, within 0 to 1. */
  louder(by: number): void {
    const loudness = Math.min(1, Math.max(0, Math.round(100 * (this.state.loudness + by)) / 100))
    this.sounds.loudness(loudness)
    this.set({ loudness })
  }

  readonly toggleEar = () => this.set({ inEar: !this.state.inEar })

  private keepTime(): void {
    this.heard.begin(this.state.sheet_s, this.round_s)
    this.ticker.start()
  }

  private tick(now_ms: number, passed: number): void {
    this.sounds.tick()
    const { phase, left_s, round } = this.state
    if (phase === 'rest') this.set({ left_s: Math.max(0, left_s - passed) })
    if (phase === 'over') this.free.passed(passed)
    if (phase !== 'round' || this.away.slept(passed)) return
    const { changes, turn, jumps, unwatched, over } = afterTime(this.run, this.state, passed)
    this.set(changes)
    if (unwatched) this.marks.endWatch('time')
    if (over) this.endRound()
    else if (turn) this.pace.begin(turn, jumps)
    if (over) return
    const { sheet_s, bpm } = this.state
    const now = { now_ms, round, sheet_s, round_s: this.round_s, bpm, place: this.state }
    this.heard.at(now, this.ticker.watch.horizon_ms, this.state.inEar)
    this.strikes.at(round, sheet_s, bpm, this.state, this.run)
  }

  /** How much of the round has passed by the clock, s. */
  private get round_s(): number {
    return freshRound(this.run, this.state.round).left_s - this.state.left_s
  }

  private endRound(): void {
    if (this.state.watch_s !== null) this.marks.endWatch('round')
    this.roundOver()
    this.heard.end(this.state.round, this.state.sheet_s)
    if (this.rung?.rounds.calls.includes('time')) this.sounds.say('time')
    if (this.state.round >= this.run.sheet.rounds.length) {
      this.ticker.stop()
      this.set({ phase: 'over', left_s: 0 })
      void this.recorder?.seal(false)
      return
    }
    this.set({
      phase: 'rest',
      round: this.state.round + 1,
      ...freshRound(this.run, this.state.round + 1),
      left_s: this.run.sheet.rest_s,
    })
  }

  private roundOver(): void {
    const { round } = this.state
    this.recorder?.note({ round: round + 1 }) // a reload goes on with the next one
    this.log({ kind: 'round_over', at_ms: this.clock.now(), round })
  }

  private log(mark: PairMark): void {
    this.recorder?.log(mark)
  }

  private set(changes: Partial<MatState>): void {
    this.state = { ...this.state, ...changes }
    this.relay?.show(this.state)
    this.keeper?.show(this.state, this.clock.now())
    for (const listener of this.listeners) listener()
  }
}
