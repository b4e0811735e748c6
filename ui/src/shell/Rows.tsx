import { defaultRangeExtractor, useWindowVirtualizer } from '@tanstack/react-virtual'
import { Fragment, useLayoutEffect, useRef, useState, type ReactNode } from 'react'

/** Lists up to this length are drawn whole: the browser's own search finds every row. */
const WHOLE = 100
const OVERSCAN = 20

/** What a row of a long list puts on its `tr`. */
export type RowPlace = {
  ref: (row: HTMLTableRowElement | null) => void
  'data-index': number
  'aria-rowindex': number
}

type Props<T> = {
  of: readonly T[]
  id: (each: T) => string
  /** About how high a row is, px. */
  height: number
  columns: number
  children: (each: T, place: RowPlace) => ReactNode
}

/** The body of a table. Of a long list only the rows near the window are drawn. */
export function Rows<T>({ of, id, height, columns, children }: Props<T>) {
  const body = useRef<HTMLTableSectionElement>(null)
  const [top, setTop] = useState(0)
  useLayoutEffect(() => {
    if (body.current) setTop(body.current.getBoundingClientRect().top + window.scrollY)
  }, [])
  const rows = useWindowVirtualizer({
    count: of.length,
    estimateSize: () => height,
    overscan: OVERSCAN,
    scrollMargin: top,
    getItemKey: (index) => {
      const each = of[index]
      return each === undefined ? index : id(each)
    },
    rangeExtractor: (range) =>
      of.length > WHOLE ? defaultRangeExtractor(range) : of.map((_, index) => index),
  })
  const drawn = rows.getVirtualItems()
  const first = drawn[0]
  const last = drawn[drawn.length - 1]
  return (
    <tbody ref={body}>
      <Blank height={first ? first.start - top : 0} columns={columns} />
      {drawn.map(({ index, key }) => {
        const each = of[index]
        const place = { ref: rows.measureElement, 'data-index': index, 'aria-rowindex': index + 2 }
        return each && <Fragment key={key}>{children(each, place)}</Fragment>
      })}
      <Blank height={last ? rows.getTotalSize() + top - last.end : 0} columns={columns} />
    </tbody>
  )
}

/** The room of the rows that are not drawn. */
function Blank({ height, columns }: { height: number; columns: number }) {
  if (height < 1) return null
  return (
    <tr aria-hidden>
      <td colSpan={columns} style={{ height, padding: 0, border: 0 }} />
    </tr>
  )
}
