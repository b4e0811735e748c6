import type { Way } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { percent } from '../../kit/format'
import { usePartnerBench } from './partnerBench'

type Props = {
  ways: readonly Way[]
  chosen: number
  choose: (way: number) => void
  add: () => void
}

/** The ways through the drill: which exchange, and what the partner gives after it. */
export function Ways({ ways, chosen, choose, add }: Props) {
  const { document, passage } = usePartnerBench()
  const known = new Map(document.passages.map((passage) => [passage.key, passage]))
  return (
    <div className="flex flex-wrap items-stretch gap-1.5" role="group" aria-label="Exchanges">
      <span className="small self-center pr-2">Exchange</span>
      {ways.map((way, index) => {
        const first = known.get((way.passages[0] ?? '').split('+')[0] ?? '')
        return (
          <button
            key={way.passages.join(' ')}
            aria-pressed={index === chosen}
            onClick={() => choose(index)}
            className={`tap flex min-h-9 cursor-pointer items-center gap-1.5 border px-2.5 text-left leading-tight ${index === chosen ? 'border-ink bg-wash font-semibold' : 'border-line hover:border-ink'}`}
          >
            {first && <CueMark mark={first.mark} size={16} />}
            <span>
              {way.names.join(' → ')}
              {way.share > 0 && <span className="small"> {percent(way.share)}</span>}
            </span>
          </button>
        )
      })}
      {ways.length === 0 &&
        document.passages.map((other, place) => (
          <span
            key={other.key}
            className={`flex min-h-9 items-center border border-dashed border-edge px-2.5 ${place === passage ? 'font-semibold' : ''}`}
          >
            {other.name}
          </span>
        ))}
      <button className="btn btn-sm btn-quiet self-center" onClick={add}>
        Add an exchange <kbd className="kbd-hint">E</kbd>
      </button>
    </div>
  )
}
