import { useEffect, useState } from 'react'

/** Seconds that are left of something that has just begun. */
export function Countdown({ lasts_s, words }: { lasts_s: number; words: string }) {
  const [left, setLeft] = useState(Math.ceil(lasts_s))
  useEffect(() => {
    const ends_ms = performance.now() + lasts_s * 1000
    const timer = setInterval(
      () => setLeft(Math.max(0, Math.ceil((ends_ms - performance.now()) / 1000))),
      200,
    )
    return () => clearInterval(timer)
  }, [lasts_s])
  return (
    <p role="status" className="flex items-baseline gap-3">
      <span className="figures text-4xl">{left > 0 ? left : '…'}</span> {words}
    </p>
  )
}
