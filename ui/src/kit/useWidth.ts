import { useEffect, useRef, useState } from 'react'

/** The width of an element, px, as it is now. */
export function useWidth(first: number) {
  const ref = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(first)
  useEffect(() => {
    const element = ref.current
    if (!element) return
    const seen = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.floor(entry.contentRect.width))
    })
    seen.observe(element)
    return () => seen.disconnect()
  }, [])
  return [ref, width] as const
}
