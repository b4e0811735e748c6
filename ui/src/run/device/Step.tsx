import type { ReactNode } from 'react'

import { StepPicture, type Picture } from './StepPicture'

type Props = {
  title: string
  state: string
  /** One sentence: what to do. */
  why: string
  /** What it is good for, for who asks. */
  more?: string
  picture: Picture
  error: Error | null
  children: ReactNode
  /** Above the others, because it wants to be looked at. */
  first?: boolean
}

/** One thing to measure: why, what was found last, and the button for it. */
export function Step(props: Props) {
  const { title, state, why, more, picture, error, children, first = false } = props
  return (
    <li className={`px-5 py-4 ${first ? 'order-first bg-wash' : ''}`}>
      <p className="flex items-baseline justify-between gap-4">
        <span className="text-xl font-semibold">{title}</span>
        <span className="small">{state}</span>
      </p>
      <div className="mt-2 flex items-start gap-5">
        <StepPicture of={picture} />
        <div className="min-w-0 flex-1">
          <p className="mb-3 max-w-2xl">{why}</p>
          {children}
          {more && (
            <details className="mt-3 max-w-2xl">
              <summary className="small cursor-pointer">What it is good for</summary>
              <p className="text-soft">{more}</p>
            </details>
          )}
        </div>
      </div>
      {error && (
        <p role="alert" className="mt-3 max-w-2xl border-l-4 border-ink bg-wash px-4 py-2">
          {error.message}
        </p>
      )}
    </li>
  )
}
