import { useState } from 'react'

import type { Block, Evening } from '../api/types'
import { Fault } from '../kit/notes'
import { useOfferUndo } from '../kit/undo'
import { BlockRow } from './BlockRow'
import { useChange } from './evenings'
import { freshBlock } from './planning'

/** The blocks of an evening, in order, with their times. */
export function Blocks({ evening }: { evening: Evening }) {
  const [open, setOpen] = useState<string | null>(null)
  const change = useChange(evening)
  const offer = useOfferUndo()
  const blocks = evening.plan.blocks
  /** open: the block that is edited once it is kept; null: none. */
  const keep = (changed: readonly Block[], open: string | null = null) =>
    change.mutate(
      { kind: 'plan', plan: { ...evening.plan, blocks: [...changed] } },
      { onSuccess: () => setOpen(open) },
    )
  const remove = (block: Block) => {
    const before = evening.plan
    keep(blocks.filter((one) => one !== block))
    offer({
      says: `${block.name} is removed.`,
      undo: () => change.mutate({ kind: 'plan', plan: before }),
    })
  }
  const add = () => {
    const block = freshBlock(blocks)
    keep([...blocks, block], block.key)
  }
  return (
    <section className="min-w-0 px-5 py-3" aria-label="The plan">
      <h2 className="text-2xl">The plan</h2>
      <Fault error={change.error} />
      <ol className="flex flex-col">
        {blocks.map((block, place) => {
          const view = evening.blocks.find((one) => one.key === block.key)
          return (
            view && (
              <BlockRow
                key={block.key}
                evening={evening}
                block={block}
                view={view}
                open={open === block.key}
                toggle={() => setOpen(open === block.key ? null : block.key)}
                keep={(changed) => keep(blocks.with(place, changed))}
                remove={() => remove(block)}
                move={(by) => keep(moved(blocks, place, by))}
              />
            )
          )
        })}
      </ol>
      <button className="btn no-print mt-3" onClick={add}>
        Add a block
      </button>
    </section>
  )
}

/** The blocks with one of them so many places further. */
function moved(blocks: readonly Block[], place: number, by: number): Block[] {
  const to = place + by
  const block = blocks[place]
  if (!block || to < 0 || to >= blocks.length) return [...blocks]
  return blocks.toSpliced(place, 1).toSpliced(to, 0, block)
}
