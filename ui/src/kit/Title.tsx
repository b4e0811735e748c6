import type { ReactNode } from 'react'

import { usePageTitle } from './usePageTitle'

/** Title line of a sheet, with what can be done on the right. */
export function Title(props: { over: string; title: string; children?: ReactNode }) {
  usePageTitle(props.title)
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-3 border-b border-line px-5 pt-3 pb-2.5">
      <div className="mr-auto">
        <p className="small">{props.over}</p>
        <h1 className="text-3xl">{props.title}</h1>
      </div>
      {props.children}
    </div>
  )
}
