import { Fragment, lazy, Suspense, type ReactNode } from 'react'

import type { RowsProps } from './rowsProps'

/** Lists up to this length are drawn whole: the browser's own search finds every row. */
const WHOLE = 100

// Few clubs have such lists: what draws them is not worth the wait for the first page.
const LongRows = lazy(() => import('./LongRows')) as unknown as <T>(
  props: RowsProps<T>,
) => ReactNode

/** The body of a table. Of a long list only the rows near the window are drawn. */
export function Rows<T>(props: RowsProps<T>) {
  if (props.of.length <= WHOLE) return <AllRows {...props} />
  return (
    <Suspense fallback={<AllRows {...props} of={props.of.slice(0, WHOLE)} />}>
      <LongRows {...props} />
    </Suspense>
  )
}

function AllRows<T>({ of, id, children }: RowsProps<T>) {
  return (
    <tbody>
      {of.map((row, index) => (
        <Fragment key={id(row)}>
          {children(row, { 'data-index': index, 'aria-rowindex': index + 2 })}
        </Fragment>
      ))}
    </tbody>
  )
}
