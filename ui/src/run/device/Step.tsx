import type { ReactNode } from 'react'

type Props = {
  title: string
  state: string
  why: string
  error: Error | null
  children: ReactNode
  /** Above the others, because it wants to be looked at. */
  first?: boolean
}

/** One thing to measure: why, what was found last, and the button for it. */
export function Step({ title, state, why, error, children, first = false }: Props) {
  return (
    <li className={`px-5 py-4 ${first ? 'order-first bg-wash' : ''}`}>
      <p className="flex items-baseline justify-between gap-4">
        <span className="text-xl font-semibold">{title}</span>
        <span className="small">{state}</span>
      </p>
      <p className="mt-1 mb-3 max-w-2xl text-soft">{why}</p>
      {children}
      {error && (
        <p role="alert" className="mt-3 max-w-2xl border-l-4 border-ink bg-wash px-4 py-2">
          {error.message}
        </p>
      )}
    </li>
  )
}
