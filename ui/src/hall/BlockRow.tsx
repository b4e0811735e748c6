import { BLOCK_KIND, FEED_WAY } from '../api/choices'
import type { Block, BlockView, Evening } from '../api/types'
import { time } from '../kit/format'
import { BlockForm } from './BlockForm'
import { Groups } from './Groups'

type Props = {
  evening: Evening
  block: Block
  view: BlockView
  open: boolean
  toggle: () => void
  keep: (block: Block) => void
  remove: () => void
  move: (by: number) => void
}

const KINDS = new Map<string, string>(BLOCK_KIND)
const FEEDS = new Map<string, string>(FEED_WAY)
const PAIRED = ['partner', 'free']

/** One block: when it is, what is done, who works with whom. */
export function BlockRow({ evening, block, view, open, toggle, keep, remove, move }: Props) {
  const paired = PAIRED.includes(block.kind)
  return (
    <li className="flex flex-col gap-2 border-b border-line py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="figures w-16 text-2xl">{time(view.starts_at)}</span>
        <div className="min-w-0 flex-1 basis-52">
          <p className="text-lg font-semibold" dir="auto">
            {block.name}
          </p>
          <p className="small">{wordsOf(block, view)}</p>
        </div>
        <span className="figures text-xl">{view.minutes} min</span>
        <span className="no-print flex gap-1">
          <button className="btn btn-sm" onClick={toggle} aria-expanded={open}>
            {open ? 'Close' : 'Edit'}
          </button>
          <button
            className="btn btn-sm"
            onClick={() => move(-1)}
            aria-label={`${block.name}: earlier`}
          >
            ↑
          </button>
          <button
            className="btn btn-sm"
            onClick={() => move(1)}
            aria-label={`${block.name}: later`}
          >
            ↓
          </button>
        </span>
      </div>
      {open && <BlockForm block={block} keep={keep} remove={remove} />}
      {paired && <Groups evening={evening} block={block} view={view} />}
    </li>
  )
}

/** What a block is, in a line. */
function wordsOf(block: Block, view: BlockView): string {
  return [
    KINDS.get(block.kind),
    view.drill !== block.name && view.drill,
    view.rungs.join(', then '),
    block.stances === 'both' && 'both stances',
    block.repeats > 1 && `${block.repeats} times`,
    view.waves > 1 && `in ${view.waves} waves, the floor is small`,
    block.kind === 'partner' && FEEDS.get(block.feeds),
    block.notes,
  ]
    .filter(Boolean)
    .join(' · ')
}
