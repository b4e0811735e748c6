/** Keys and touch zones, with the time the device gave them. */

export type Answer = { t_ms: number; device: 'key' | 'touch'; control: string }

export type Commands = {
  pause(): void
  stop(): void
  skip(): void
  louder(by: number): void
}

const LOUDER = 0.05

export class Inputs {
  private readonly cleanUp: AbortController = new AbortController()

  /** controls: the keys and zones that mean an answer. rows: of touch zones, one above another. */
  constructor(
    private readonly surface: HTMLElement,
    private readonly controls: Set<string>,
    private readonly rows: number,
    private readonly answer: (answer: Answer) => void,
    private readonly commands: Commands,
  ) {
    const { signal } = this.cleanUp
    window.addEventListener('keydown', (event) => this.key(event), { signal })
    surface.addEventListener('pointerdown', (event) => this.touch(event), { signal })
  }

  close(): void {
    this.cleanUp.abort()
  }

  private key(event: KeyboardEvent): void {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return
    if (this.controls.has(event.code)) {
      event.preventDefault()
      this.answer({ t_ms: event.timeStamp, device: 'key', control: event.code })
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

  private touch(event: PointerEvent): void {
    if (isButton(event.target)) return
    const box = this.surface.getBoundingClientRect()
    const column = event.clientX < box.left + box.width / 2 ? 'left' : 'right'
    const row = Math.min(
      this.rows - 1,
      Math.floor(((event.clientY - box.top) / box.height) * this.rows),
    )
    this.answer({ t_ms: event.timeStamp, device: 'touch', control: `zone:${column}:${row}` })
  }
}

function isButton(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('button, a, input, select') !== null
}
