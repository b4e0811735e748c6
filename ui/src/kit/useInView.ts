import { useEffect, useState, type RefObject } from 'react'

/** Draw a little more than is seen, so that scrolling finds it there. */
const MARGIN = '300px'

/** Whether an element is in sight, or nearly: a long plan has more rows than a screen shows. */
export function useInSight(element: RefObject<Element | null>): boolean {
  const [inSight, setInSight] = useState(false)
  useEffect(() => {
    if (!element.current) return
    const observer = new IntersectionObserver(
      (entries) => setInSight(entries.some((entry) => entry.isIntersecting)),
      { rootMargin: MARGIN },
    )
    observer.observe(element.current)
    return () => observer.disconnect()
  }, [element])
  return inSight
}
