/** The package has types, but its list of exports does not name them. */
declare module 'tinykeys' {
  export function tinykeys(
    target: Window | HTMLElement,
    presses: Record<string, (event: KeyboardEvent) => void>,
  ): () => void
}
