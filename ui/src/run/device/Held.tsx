import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { Link } from 'react-router'

import { save } from '../../kit/save'
import { bringIn, fileOf, heldHere, readFile } from './batchFile'
import { Step } from './Step'

const batches = (count: number) => (count === 1 ? '1 batch' : `${count} batches`)

/** The readout of the run whose batches go to `address`. */
function runOf(address: string): string {
  const [, , kind, run] = address.split('/')
  return kind === 'partner-runs' ? `/pairs/${run}` : `/read/${run}`
}

const SAVED_AS = 'hastatus-kept.json'

/** What could not be sent: saved to a file, brought in again. */
export function Held() {
  const queries = useQueryClient()
  const file = useRef<HTMLInputElement>(null)
  const held = useQuery({ queryKey: ['held'], queryFn: heldHere, refetchInterval: 5000 })
  const bring = useMutation({
    mutationFn: bringIn,
    onSettled: () => queries.invalidateQueries({ queryKey: ['held'] }),
  })
  const open = useMutation({
    mutationFn: async (from: File) => bring.mutateAsync(readFile(await from.text())),
  })
  const all = held.data ?? []
  const refused = all.filter(({ reason }) => reason !== '')
  return (
    <Step
      first={refused.length > 0}
      title="What could not be sent"
      state={all.length > 0 ? `${batches(all.length)} kept here` : 'nothing'}
      picture="file"
      why="Answers and marks that the server has not taken stay here: save them to a file before this browser is cleared."
      more="The file can be imported here or on another device."
      error={held.error ?? open.error ?? bring.error}
    >
      {refused.length > 0 && (
        <ul className="mb-3 max-w-2xl">
          {refused.map(({ address, number, reason }) => (
            <li key={`${address} ${number}`}>
              <Link className="underline" to={runOf(address)}>
                A run
              </Link>
              , part {number + 1}: {reason}
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2">
        {all.length > 0 && (
          <button className="btn btn-quiet" onClick={() => save(fileOf(all), SAVED_AS)}>
            Save to a file
          </button>
        )}
        {refused.length > 0 && (
          <button
            className="btn btn-quiet"
            disabled={bring.isPending}
            onClick={() => bring.mutate(refused)}
          >
            Send again
          </button>
        )}
        <button className="btn btn-quiet" onClick={() => file.current?.click()}>
          Import
        </button>
        <input
          ref={file}
          type="file"
          accept="application/json"
          className="hidden"
          aria-label="File of kept batches"
          onChange={({ target }) => {
            if (target.files?.[0]) open.mutate(target.files[0])
            target.value = ''
          }}
        />
      </div>
      {bring.data && (
        <p role="status" className="mt-3 max-w-2xl">
          {batches(bring.data.taken)} taken
          {bring.data.refused[0] && `; refused: ${bring.data.refused[0].reason}`}.
        </p>
      )}
    </Step>
  )
}
