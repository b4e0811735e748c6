/** A write that the device refuses is tried again until it is through. */

const AGAIN_MS = [250, 500, 1000, 2000]

/**
 * Do `write` until the device takes it. told: after each try, whether it was taken. A full disk and
 * a database that was closed under way are worth another try; any other error is thrown.
 */
export async function untilWritten<T>(
  write: () => Promise<T>,
  told: (written: boolean) => void = () => undefined,
): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      const result = await write()
      told(true)
      return result
    } catch (error) {
      if (!(error instanceof DOMException)) throw error
      told(false)
      const wait = AGAIN_MS[Math.min(tries, AGAIN_MS.length - 1)]
      await new Promise((over) => setTimeout(over, wait))
    }
  }
}
