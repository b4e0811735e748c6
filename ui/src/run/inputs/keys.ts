/** Keys and touch zones, with the time the device gave them. */
import type { SourceName } from '../../api/types'
import { CLICK, HOME, TAP, type Given } from './given'

export type Commands = {
  pause: () => void
  stop: () => void
  skip: () => void
  louder: (by: number) => void
}

/**
 * controls: the keys and zones that mean an answer. rows: of touch zones, one above another.
 * home: the key that is held between answers, and whether a zone at the foot is, too.
 * tap: the key of a coach who taps along.
 */
export type Layout = {
  inputs: ReadonlySet<SourceName>
  controls: ReadonlySet<string>
  rows: number
  home: string | null
  tap: string
}

const LOUDER = 0.05
/** The home zone takes this share of the screen, at its foot. */
const HOME_ZONE = 0.2
/** What the hand-held clickers of lecturers send. */
const CLICKER_KEYS = new Set(['PageDown', 'PageUp'])

export class Keys {
  private readonly cleanUp: AbortController = new AbortController()
  private homePointer: number | null = null

  constructor(
    private readonly surface: HTMLElement,
    private readonly layout: Layout,
    private readonly answer: (answer: Given) => void,
    private readonly commands: Commands,
  ) {
    const { signal } = this.cleanUp
    window.addEventListener('keydown', (event) => this.key(event), { signal })
    window.addEventListener('keyup', (event) => this.letGo(event), { signal })
    surface.addEventListener('pointerdown', (event) => this.touch(event), { signal })
    for (const name of ['pointerup', 'pointercancel'] as const)
      window.addEventListener(name, (event) => this.lift(event), { signal })
  }

  close(): void {
    this.cleanUp.abort()
  }

  private key(event: KeyboardEvent): void {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return
    const given = this.meant(event.code)
    if (given) {
      event.preventDefault()
      this.answer({ t_ms: event.timeStamp, edge: 'down', ...given })
      return
    }
    const command = {
      Space: () => this.commands.pause(),
      KeyS: () => this.commands.stop(),
      Enter: () => this.commands.skip(),
      ArrowUp: () => this.commands.louder(LOUDER),
      ArrowDown: () => this.commands.louder(-LOUDER),
    }[event.code]
    if (!command || isButton(event.target)) return
    event.preventDefault()
    command()
  }

  /** What a key stands for, null for none. */
  private meant(code: string): Pick<Given, 'device' | 'control'> | null {
    const { inputs, controls, home, tap } = this.layout
    if (code === home) return { device: 'key', control: HOME }
    if (inputs.has('key') && controls.has(code)) return { device: 'key', control: code }
    if (inputs.has('coach') && code === tap) return { device: 'coach', control: TAP }
    if (inputs.has('clicker') && CLICKER_KEYS.has(code))
      return { device: 'clicker', control: CLICK }
    return null
  }

  private letGo(event: KeyboardEvent): void {
    if (event.code !== this.layout.home) return
    this.answer({ t_ms: event.timeStamp, device: 'key', control: HOME, edge: 'up' })
  }

  private touch(event: PointerEvent): void {
    if (isButton(event.target)) return
    const { inputs, home, rows } = this.layout
    const at = { t_ms: event.timeStamp, edge: 'down' as const }
    if (!inputs.has('touch')) {
      if (inputs.has('coach')) this.answer({ ...at, device: 'coach', control: TAP })
      return
    }
    const box = this.surface.getBoundingClientRect()
    const foot = home ? HOME_ZONE * box.height : 0
    const height = box.height - foot
    if (event.clientY - box.top > height) {
      this.homePointer = event.pointerId
      this.answer({ ...at, device: 'touch', control: HOME })
      return
    }
    const column = event.clientX < box.left + box.width / 2 ? 'left' : 'right'
    const row = Math.min(rows - 1, Math.floor(((event.clientY - box.top) / height) * rows))
    this.answer({ ...at, device: 'touch', control: `zone:${column}:${row}` })
  }

  private lift(event: PointerEvent): void {
    if (event.pointerId !== this.homePointer) return
    this.homePointer = null
    this.answer({ t_ms: event.timeStamp, device: 'touch', control: HOME, edge: 'up' })
  }
}

function isButton(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('button, a, input, select') !== null
}
