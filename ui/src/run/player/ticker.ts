/** Ticks for as long as something goes on: tells how much time has passed, keeps the screen on. */
import { Watch } from './watch'

export class Ticker {
  readonly watch: Watch
  private timer: number | undefined
  private last_ms = 0

  /** tick: what is done every `every_ms`; told the page's clock and the time since the last one, s. */
  constructor(
    private readonly every_ms: number,
    private readonly tick: (now_ms: number, passed_s: number) => void,
  ) {
    this.watch = new Watch(every_ms)
  }

  start(): void {
    this.stop()
    this.forget()
    void this.watch.keepAwake()
    this.timer = window.setInterval(() => this.now(), this.every_ms)
  }

  stop(): void {
    clearInterval(this.timer)
  }

  close(): void {
    this.stop()
    void this.watch.letSleep()
  }

  /** The time until now does not count. */
  forget(): void {
    this.last_ms = performance.now()
    this.watch.restart()
  }

  /** Tick at once. */
  now(): void {
    const now_ms = performance.now()
    const passed_s = (now_ms - this.last_ms) / 1000
    this.last_ms = now_ms
    this.watch.tick(now_ms)
    this.tick(now_ms, passed_s)
  }
}
