import type { ReactNode } from 'react'

import { useWidth } from './useWidth'

type Props = {
  /** Until the first measurement, px. */
  first: number
  children: (width: number) => ReactNode
}

/** Lays a picture out for the room that there is, so that its words keep their size. */
export function Wide({ first, children }: Props) {
  const [ref, width] = useWidth(first)
  return (
    <div ref={ref} className="w-full contain-inline-size">
      {children(width)}
    </div>
  )
}
