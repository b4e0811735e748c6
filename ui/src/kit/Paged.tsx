import { useState, type ReactNode } from 'react'

const A_PAGE = 25

type Props<T> = {
  of: readonly T[]
  first: number
  /** Fetches older ones, where there are more than these. */
  older?: (() => void) | undefined
  children: (shown: T[]) => ReactNode
}

/** So many at first, and a page more at a time. */
export function Paged<T>({ of, first, older, children }: Props<T>) {
  const [count, setCount] = useState(first)
  const left = of.length - count
  return (
    <>
      {children(of.slice(0, count))}
      {(left > 0 || older) && (
        <button
          className="btn btn-quiet no-print mt-2"
          onClick={() => {
            setCount(count + A_PAGE)
            if (left <= A_PAGE) older?.()
          }}
        >
          {left > 0
            ? `${Math.min(A_PAGE, left)} more of ${of.length}${older ? ' and older ones' : ''}`
            : 'Older ones'}
        </button>
      )}
    </>
  )
}
