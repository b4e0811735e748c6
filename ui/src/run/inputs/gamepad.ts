/** A gamepad or a clicker that shows as one: any of its buttons, looked at once a frame. */
import { CLICK, type Ears } from './given'

export class Gamepads {
  private held = false

  constructor(private readonly ears: Ears) {}

  /** Look at the buttons; `now_ms` is the time of the frame. */
  frame(now_ms: number): void {
    const pads = navigator.getGamepads().filter((pad) => pad !== null)
    const down = pads.some((pad) => pad.buttons.some((button) => button.pressed))
    if (down && !this.held) {
      const stamps = pads.map((pad) => pad.timestamp).filter((at) => at > 0 && at <= now_ms)
      const t_ms = Math.max(now_ms - 50, ...stamps)
      this.ears.given({ t_ms, device: 'clicker', control: CLICK, edge: 'down' })
    }
    this.held = down
  }
}
