/** The player: puts the parts together, keeps them going, and takes the coach's commands. */
import type { Ack, Event } from '../../api/types'
import { Door } from '../inputs/door'
import { Inputs } from '../inputs/inputs'
import { AudioClock } from './clock'
import { Flow } from './flow'
import { Lights } from './lights'
import type { Parts } from './parts'
import { Recorder } from './recorder'
import { SENT } from '../recorder/outbox'
import { Sealer } from './sealer'
import { Sounds } from './sounds'
import { Stage } from './stage'
import { startAt, Store, type Snapshot } from './state'
import { TICK_MS, Watch } from './watch'

const AUDIO_STARTS_WITHIN_MS = 3000
const LEAST_LOUDNESS = 0.05
/** So long a jump of the clocks takes to be seen. */
const CLOCK_JUMP_SPOILS_MS = 500

export class Player {
  readonly state: Store<Snapshot>
  private readonly clock: AudioClock
  private readonly sounds: Sounds
  private readonly lights: Lights
  private readonly recorder: Recorder
  private readonly sealer: Sealer
  private readonly stage: Stage
  private readonly flow: Flow
  private readonly inputs: Inputs
  private readonly watch = new Watch()
  private readonly cleanUp = new AbortController()
  private timer: number | undefined
  private frames = 0

  constructor(private readonly parts: Parts) {
    const { view, store, recording, surface, layer, laidOut } = parts
    this.state = new Store(startAt(recording, view.loudness))
    this.clock = new AudioClock(new AudioContext({ sampleRate: 48_000 }))
    this.sounds = new Sounds(this.clock, view.loudness)
    this.lights = new Lights(layer, view.flash_s * 1000)
    this.recorder = new Recorder(
      store,
      recording,
      (ack) => this.acknowledged(ack),
      () => this.line(),
      Math.max(0, ...view.device.corrections.map((correction) => correction.ms)),
      parts.to,
      parts.logs,
    )
    this.sealer = new Sealer(this.recorder, this.watch)
    this.stage = new Stage(view, this.clock, this.sounds, this.lights, this.recorder)
    const { came = null } = recording
    this.flow = new Flow(view, this.state, this.stage, this.recorder, this.sealer, came, laidOut)
    this.inputs = new Inputs(
      view,
      surface,
      this.clock,
      this.sounds,
      new Door(this.state, {
        inRound: (event) => this.inRound(event),
        remark: (what) => this.recorder.log({ type: 'remark', t_ms: performance.now(), what }),
        stop: () => this.flow.pause('unplugged', performance.now()),
      }),
      {
        synced: (event) => this.inRound({ type: 'sync', ...event }),
        soundLost: (from_ms, t_ms) =>
          this.inRound({ type: 'distrust', from_ms, t_ms, reason: 'sound_lost' }),
        moved: (event) => this.inRound(event, true),
      },
      {
        pause: () => this.pauseOrGoOn(),
        stop: () => this.flow.stop(performance.now()),
        skip: () => this.skip(),
        louder: (by) => this.louder(by),
      },
    )
    this.listen()
  }

  /** Load sounds and pictures; before that nothing is ready. */
  async load(): Promise<void> {
    const { view, recording } = this.parts
    await Promise.all([this.sounds.load(view.sounds), this.lights.load(this.stage.drawings())])
    if (recording.finished || view.state !== 'open') {
      this.state.set({ phase: 'sending' })
      await this.recorder.outbox.flush()
      if (SENT.includes(this.recorder.outbox.line)) this.state.set({ phase: 'done' })
      return
    }
    await this.inputs.open()
    // The window may have moved meanwhile: ask for the tail of the round that comes or goes on.
    if (recording.round > 0) void this.sealer.seal(this.flow.course, Infinity)
    this.resend()
  }

  /** Begin, from a press of the coach, without which a browser plays no sound. */
  async begin(): Promise<void> {
    const { context } = this.clock
    const late = new Promise((resolve) => setTimeout(resolve, AUDIO_STARTS_WITHIN_MS))
    await Promise.race([context.resume(), late])
    if (context.state !== 'running') {
      this.state.set({ message: 'The sound output does not start. Check it, then press again.' })
      return
    }
    if (this.timer !== undefined || this.state.get().phase !== 'ready') return
    this.state.set({ message: '' })
    if (!(await this.watch.keepAwake())) {
      const what = 'the browser may let the screen go dark'
      this.recorder.log({ type: 'remark', t_ms: performance.now(), what })
    }
    this.watch.restart()
    this.flow.begin(performance.now())
    this.tick()
    this.frames = requestAnimationFrame(this.frame)
  }

  /** Try again to open what did not open. */
  openInputs(): void {
    void this.inputs.open()
  }

  skip(): void {
    this.flow.skip(performance.now())
  }

  pauseOrGoOn(): void {
    if (this.state.get().phase !== 'paused') {
      this.flow.pause('coach', performance.now())
      return
    }
    void this.inputs.open()
    if (this.clock.context.state !== 'running') void this.clock.context.resume()
    this.watch.restart()
    this.flow.goOn(performance.now())
  }

  /** Press once to pause and be asked, twice to end the run. */
  stop(): void {
    this.flow.stop(performance.now())
  }

  /** Close a run that was cut off, without playing on. */
  giveUp(): void {
    this.flow.end('stopped', performance.now())
    this.rest()
  }

  louder(by: number): void {
    const wanted = Math.min(1, Math.max(LEAST_LOUDNESS, this.state.get().loudness + by))
    const loudness = Math.round(wanted * 100) / 100
    this.sounds.loudness = loudness
    this.state.set({ loudness })
  }

  /** Send what is kept, for example after signing in again. */
  resend(): void {
    void this.recorder.outbox.flush().then(() => this.line())
  }

  close(): void {
    this.rest()
    this.cleanUp.abort()
    this.recorder.outbox.close()
    void this.clock.context.close()
  }

  /** The run is over: nobody is heard or seen any more, and nothing keeps the device busy. */
  private rest(): void {
    clearTimeout(this.timer)
    cancelAnimationFrame(this.frames)
    this.inputs.close()
    this.lights.close()
    void this.watch.letSleep()
  }

  private listen(): void {
    const { signal } = this.cleanUp
    const hidden = () => {
      if (document.hidden) this.flow.pause('hidden', performance.now())
    }
    const lost = () => {
      if (this.clock.context.state !== 'running') this.flow.pause('audio_lost', performance.now())
    }
    document.addEventListener('visibilitychange', hidden, { signal })
    this.clock.context.addEventListener('statechange', lost, { signal })
    window.addEventListener('online', () => this.resend(), { signal })
  }

  private readonly tick = (): void => {
    const now = performance.now()
    this.watch.tick(now)
    if (this.clock.sample()) {
      const from_ms = Math.max(0, now - CLOCK_JUMP_SPOILS_MS)
      this.inRound({ type: 'distrust', from_ms, t_ms: now, reason: 'clock_jump' })
    }
    this.flow.tick(now, this.watch.horizon_ms)
    const unsettled_ms = Math.min(
      ...[this.stage, this.lights, this.inputs].map((part) => part.unsettled_ms),
    )
    this.sealer.tick(this.flow.phase, this.flow.course, unsettled_ms)
    this.timer = window.setTimeout(this.tick, TICK_MS)
    if (['sending', 'done'].includes(this.flow.phase)) this.rest()
  }

  private readonly frame = (frame_ms: number): void => {
    const gap = this.watch.frame(frame_ms)
    if (gap && this.flow.phase === 'round') this.recorder.log({ type: 'distrust', ...gap })
    this.lights.frame(frame_ms)
    this.inputs.frame(frame_ms)
    this.frames = requestAnimationFrame(this.frame)
  }

  /** early: in the count-in, too, where how somebody stands who waits is learned. */
  private inRound(event: Event, early = false): void {
    const { phase } = this.flow
    if (phase === 'round' || (early && phase === 'count-in')) this.recorder.log(event)
  }

  private acknowledged(ack: Ack): void {
    if (ack.tail) this.flow.take(ack.tail, performance.now(), this.watch.horizon_ms)
    this.state.set({ holding: ack.holding })
    if (ack.complete) this.state.set({ phase: 'done' })
  }

  private line(): void {
    const { line, reason } = this.recorder.outbox
    this.state.set({ line, reason })
  }
}
