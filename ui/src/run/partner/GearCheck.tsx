import { CONTACT, GEAR } from '../../api/choices'
import type { Gear, PairStart } from '../../api/types'
import { Toggle } from '../../kit/fields'
import { HoldMark } from '../../kit/HoldMark'
import { nameOf } from '../../kit/names'
import type { WornTonight } from './useTonight'

type Props = {
  start: PairStart | undefined
  change: (tonight: Partial<WornTonight>) => void
}

/** What each of them wears tonight, how hard they may be hit, whether they are on hold; and what is
 * held for them. */
export function GearCheck({ start, change }: Props) {
  const wear = (place: number, gear: Gear, on: boolean) =>
    change({
      worn: (start?.brings ?? []).map((partner, index) =>
        index === place ? switched(partner.wears, gear, on) : partner.wears,
      ),
    })
  return (
    <aside className="border-l border-line px-5 py-4" aria-label="Gear check">
      <h2 className="mb-2 text-2xl">Gear check</h2>
      {!start && <p>Choose who works together.</p>}
      {start?.brings.map((partner, place) => (
        <section
          key={place}
          aria-label={partner.name}
          className="mb-4 border-b border-dotted border-line pb-3"
        >
          <h3 className="text-lg font-semibold">{partner.name}</h3>
          <p>
            takes part up to{' '}
            <b>{partner.contact === 'none' ? 'no contact' : nameOf(CONTACT, partner.contact)}</b>
          </p>
          <Items
            asked={start.asked}
            there={partner.wears}
            change={(gear, on) => wear(place, gear, on)}
            none="No gear is asked for."
          />
          <HoldMark hold={partner.hold} />
        </section>
      ))}
      {start && start.held.length > 0 && (
        <section aria-label="Held for them">
          <h3 className="text-lg font-semibold">Held for them</h3>
          <Items
            asked={start.held}
            there={start.here}
            change={(gear, on) => change({ here: switched(start.here, gear, on) })}
            none=""
          />
        </section>
      )}
    </aside>
  )
}

type ItemsProps = {
  asked: Gear[]
  there: Gear[]
  change: (gear: Gear, on: boolean) => void
  none: string
}

function Items({ asked, there, change, none }: ItemsProps) {
  if (asked.length === 0) return <p>{none}</p>
  return (
    <div className="mt-2 flex flex-col gap-1">
      {asked.map((gear) => (
        <Toggle
          key={gear}
          label={nameOf(GEAR, gear)}
          on={there.includes(gear)}
          change={(on) => change(gear, on)}
        />
      ))}
    </div>
  )
}

function switched(gear: Gear[], item: Gear, on: boolean): Gear[] {
  return on ? [...gear, item] : gear.filter((kept) => kept !== item)
}
