import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { Fragment, useLayoutEffect, useRef, useState } from 'react'

import type { RowsProps } from './rowsProps'

const OVERSCAN = 20

/** The body of a long table: only the rows near the window are drawn. */
export default function LongRows<T>({ of, id, height, columns, children }: RowsProps<T>) {
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
    // Whole pixels would be off by a half in each row, and scrolling would be pulled about.
    measureElement: (row) => row.getBoundingClientRect().height,
    getItemKey: (index) => {
      const row = of[index]
      return row === undefined ? index : id(row)
    },
  })
  const drawn = rows.getVirtualItems()
  const first = drawn[0]
  const last = drawn[drawn.length - 1]
  return (
    <tbody ref={body}>
      <Blank height={first ? first.start - top : 0} columns={columns} />
      {drawn.map(({ index, key }) => {
        const row = of[index]
        const place = { ref: rows.measureElement, 'data-index': index, 'aria-rowindex': index + 2 }
        return row && <Fragment key={key}>{children(row, place)}</Fragment>
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
