import { useEffect, useRef, useState } from 'react'

import type { ClassMark, LiveEvening, Tile } from '../api/types'
import { useOfferUndo } from '../kit/undo'
import type { MarkSaid, RunningClass } from './running/runningClass'

type Props = { running: RunningClass; live: LiveEvening; tile: Tile; close: () => void }

/** One pair, looked at: what is not tapped meanwhile was kept out. */
export function TileSheet({ running, live, tile, close }: Props) {
  const [whose, setWhose] = useState(tile.members[0]?.student_id ?? '')
  const [note, setNote] = useState('')
  const offer = useOfferUndo()
  const block = live.clock.block ?? ''
  const free = live.blocks.some(({ key, kind }) => key === block && kind === 'free')
  const members = tile.members.map(({ student_id }) => student_id)
  useWatching(running, block, members)
  const mark = (kind: ClassMark['kind'], says: string, more: Partial<MarkSaid> = {}) => {
    const id = running.mark({ block, members, kind, ...more })
    offer({
      says,
      undo: () => running.mark({ block, members, kind: 'back', of: id }),
    })
  }
  const name = tile.members.find(({ student_id }) => student_id === whose)?.name ?? ''
  return (
    <section className="class-sheet" aria-label={tile.members.map(({ name }) => name).join(', ')}>
      <div className="class-sheet-head">
        <h2 dir="auto">{tile.members.map((one) => one.name).join(' · ')}</h2>
        <button className="btn btn-lg btn-primary" onClick={close}>
          Back to all
        </button>
      </div>
      {tile.members.map(
        (one) =>
          one.note && (
            <p key={one.student_id} role="note">
              <b>{one.name}</b>: {one.note}
            </p>
          ),
      )}
      {tile.limit && (
        <p role="note">
          <b>Tonight</b>: {tile.limit}
        </p>
      )}
      {!free && (
        <>
          <p className="text-soft" role="status">
            You watch: what is not tapped was kept out. {tile.through} got through in this block.
          </p>
          <div className="class-marks">
            <button className="btn class-through" onClick={() => mark('through', 'Got through.')}>
              Got through
            </button>
            <button
              className="btn btn-lg"
              onClick={() => mark('slower', 'Slower from next round on.')}
            >
              Slower feed
            </button>
            <button
              className="btn btn-lg"
              onClick={() => mark('quicker', 'Quicker from next round on.')}
            >
              Quicker feed
            </button>
          </div>
        </>
      )}
      <div className="class-whose" role="group" aria-label="Whose it is">
        {tile.members.map((one) => (
          <button
            key={one.student_id}
            className={`btn btn-lg ${whose === one.student_id ? 'btn-primary' : ''}`}
            aria-pressed={whose === one.student_id}
            onClick={() => setWhose(one.student_id)}
          >
            <span dir="auto">{one.name}</span>
          </button>
        ))}
        <button
          className="btn btn-lg"
          onClick={() => mark('forfeit', `Forfeit: ${name}.`, { student: whose })}
        >
          Forfeit
        </button>
        <button
          className="btn btn-lg class-knock"
          onClick={() => mark('knock', `Head knock: ${name}. Off for the day.`, { student: whose })}
        >
          Head knock: {name}
        </button>
      </div>
      {free && (
        <Chances mark={(kind, says) => mark(kind, `${name}: ${says}.`, { student: whose })} />
      )}
      <div className="class-faults" role="group" aria-label={`Faults of ${name}`}>
        {live.faults.map((fault) => (
          <button
            key={fault}
            className="btn"
            onClick={() => mark('fault', `${name}: ${fault}.`, { student: whose, words: fault })}
          >
            {fault}
          </button>
        ))}
      </div>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (note.trim()) mark('note', 'Noted.', { words: note.trim() })
          setNote('')
        }}
      >
        <input
          className="input min-w-0 flex-1"
          aria-label="A note on this pair"
          placeholder="A note"
          maxLength={2000}
          value={note}
          onChange={({ target }) => setNote(target.value)}
        />
        <button className="btn">Keep it</button>
      </form>
    </section>
  )
}

type ChancesProps = { mark: (kind: ClassMark['kind'], says: string) => void }

/** In a free round nothing is fed: chances of drilled answers are tapped, used or not. */
function Chances({ mark }: ChancesProps) {
  return (
    <>
      <p className="text-soft" role="status">
        A free round: tap each chance that a drilled answer of theirs has, used or not.
      </p>
      <div className="class-marks">
        <button className="btn btn-lg" onClick={() => mark('carried_over', 'used')}>
          A drilled answer turned up
        </button>
        <button className="btn btn-lg" onClick={() => mark('chance_missed', 'a chance missed')}>
          A chance, not used
        </button>
      </div>
    </>
  )
}

const LEAST_S = 2

/** Somebody looks at the pair from here on; when they turn away, that they watched is kept. */
function useWatching(running: RunningClass, block: string, members: readonly string[]): void {
  const pair = useRef(members)
  useEffect(() => {
    const from_s = running.elapsed_s()
    const of = [...pair.current]
    running.mark({ block, members: of, kind: 'seen' })
    return () => {
      const at_s = running.elapsed_s()
      if (at_s - from_s >= LEAST_S)
        running.mark({ block, members: of, kind: 'watched', at_s, seconds: at_s - from_s })
    }
  }, [running, block])
}
