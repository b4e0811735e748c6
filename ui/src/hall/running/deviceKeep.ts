/** What this device keeps of a class until the server has it: one entry each, so no tab loses another's. */

export type Kept = { key: string; body: { id: string } }

export class DeviceKeep {
  private readonly front: string

  constructor(
    evening: string,
    private readonly store: Storage = localStorage,
  ) {
    this.front = `hastatus class ${evening} `
  }

  /** Keep an act or a mark. */
  add(kind: 'act' | 'mark', body: { id: string }): void {
    this.store.setItem(`${this.front}${kind} ${body.id}`, JSON.stringify(body))
  }

  /** What is not known to be with the server yet. */
  all(kind: 'act' | 'mark'): Kept[] {
    const front = `${this.front}${kind} `
    return Array.from({ length: this.store.length }, (_, place) => this.store.key(place) ?? '')
      .filter((key) => key.startsWith(front))
      .map((key) => ({ key, body: JSON.parse(this.store.getItem(key) ?? '{}') as { id: string } }))
  }

  /** The server has these. */
  sent(kept: readonly Kept[]): void {
    for (const { key } of kept) this.store.removeItem(key)
  }

  /** The server never takes this as it is: it stays here, and is not sent again. */
  setAside({ key, body }: Kept): void {
    this.store.setItem(`${this.front}aside ${body.id}`, JSON.stringify(body))
    this.store.removeItem(key)
  }

  /** Something of which the newest counts, such as the last answer. */
  put(name: string, value: unknown): void {
    this.store.setItem(`${this.front}last ${name}`, JSON.stringify(value))
  }

  get(name: string): unknown {
    const text = this.store.getItem(`${this.front}last ${name}`)
    return text === null ? null : JSON.parse(text)
  }
}
