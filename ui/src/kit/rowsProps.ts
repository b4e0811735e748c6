import type { ReactNode } from 'react'

/** What a row puts on its `tr`. */
export type RowPlace = {
  ref?: (row: HTMLTableRowElement | null) => void
  'data-index': number
  'aria-rowindex': number
}

export type RowsProps<T> = {
  of: readonly T[]
  id: (row: T) => string
  /** About how high a row is, px. */
  height: number
  columns: number
  children: (row: T, place: RowPlace) => ReactNode
}
