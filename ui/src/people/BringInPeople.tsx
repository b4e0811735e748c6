import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'

import { api, take } from '../api/client'
import type { PeopleTable } from '../api/types'
import { Fault } from '../kit/notes'

type Sent = { data: string; keep: boolean; leave_out: number[] }

/** People from a spreadsheet: looked at first, with what is wrong with each row, then kept at once. */
export function BringInPeople() {
  const input = useRef<HTMLInputElement>(null)
  const [data, setData] = useState<string | null>(null)
  const [leftOut, setLeftOut] = useState<ReadonlySet<number>>(new Set())
  const queries = useQueryClient()
  const send = useMutation({
    mutationFn: (body: Sent) => take(api.POST('/api/students/table', { body })),
    onSuccess: async (table, { keep }) => {
      if (!keep) {
        setLeftOut(new Set(table.rows.filter(({ twin }) => twin).map(({ line }) => line)))
        return
      }
      setData(null)
      await queries.invalidateQueries({ queryKey: ['students'] })
    },
  })
  const choose = async (file: File) => {
    const chosen = base64(new Uint8Array(await file.arrayBuffer()))
    setData(chosen)
    send.mutate({ data: chosen, keep: false, leave_out: [] })
  }
  const toggle = (line: number) => {
    const changed = new Set(leftOut)
    if (!changed.delete(line)) changed.add(line)
    setLeftOut(changed)
  }
  const table = send.data
  const good = table?.rows.filter(({ faults, line }) => !faults.length && !leftOut.has(line)) ?? []
  return (
    <>
      <button className="btn no-print" onClick={() => input.current?.click()}>
        From a table
      </button>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        className="hidden"
        aria-label="Table of people"
        onChange={({ target }) => {
          const file = target.files?.[0]
          if (file) void choose(file)
          target.value = ''
        }}
      />
      {(data !== null || send.error) && (
        <section className="basis-full border border-edge p-3" aria-label="People from a table">
          <Fault error={send.error} />
          {table && data !== null && (
            <>
              <Preview table={table} leftOut={leftOut} toggle={toggle} />
              <button
                className="btn btn-primary"
                disabled={good.length === 0 || send.isPending}
                onClick={() => send.mutate({ data, keep: true, leave_out: [...leftOut] })}
              >
                Add {good.length}
              </button>{' '}
            </>
          )}
          <button
            className="btn"
            onClick={() => {
              setData(null)
              send.reset()
            }}
          >
            Cancel
          </button>
        </section>
      )}
      {data === null && send.isSuccess && <p role="status">{send.data.added} were added.</p>}
    </>
  )
}

type PreviewProps = {
  table: PeopleTable
  leftOut: ReadonlySet<number>
  toggle: (line: number) => void
}

function Preview({ table, leftOut, toggle }: PreviewProps) {
  return (
    <>
      {table.unknown.length > 0 && (
        <p>Not taken, since these heads say nothing here: {table.unknown.join(', ')}.</p>
      )}
      {table.rows.length === 0 && <p>Nobody is in it.</p>}
      <table className="sheet">
        <thead>
          <tr>
            <th>Add</th>
            <th>Line</th>
            <th>Name</th>
            <th>Says</th>
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row) => (
            <tr key={row.line}>
              <td data-label="Add">
                <label>
                  <input
                    type="checkbox"
                    className="checkbox"
                    aria-label={`Add line ${row.line}, ${row.name}`}
                    disabled={row.faults.length > 0}
                    checked={row.faults.length === 0 && !leftOut.has(row.line)}
                    onChange={() => toggle(row.line)}
                  />
                </label>
              </td>
              <td className="figures" data-label="Line">
                {row.line}
              </td>
              <td dir="auto" data-label="Name">
                {row.name}
              </td>
              <td data-wide data-label="Says">
                {row.faults.length > 0 ? <b>{row.faults.join('; ')}</b> : row.says}
                {row.twin && ` · there is ${row.twin} already`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function base64(bytes: Uint8Array): string {
  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
}
