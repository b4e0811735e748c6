import { useState } from 'react'

/** The last answer that could be read, so that words and pictures stand while a field is mended. */
export function useLast<T extends { rungs: readonly unknown[] }>(answer: T | undefined): T | null {
  const [last, setLast] = useState<T | null>(null)
  const readable = answer && answer.rungs.length > 0 ? answer : null
  if (readable && readable !== last) setLast(readable)
  return readable ?? last
}
