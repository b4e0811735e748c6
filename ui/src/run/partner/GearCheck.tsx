import { CONTACT, GEAR } from '../../api/choices'
import type { Gear, PairStart } from '../../api/types'
import { Toggle } from '../../kit/fields'
import { HoldMark } from '../../kit/HoldMark'
import { nameOf } from '../../kit/names'
import type { WornTonight } from './useTonight'

type Props = {
  start: PairStart | undefined
  tonight: WornTonight
  change: (tonight: Partial<WornTonight>) => void
}

/** What each of them wears tonight, how hard they may be hit, whether they are on hold; and what is
 * held for them. */
export function GearCheck({ start, tonight, change }: Props) {
  // What was said here counts at once; the answer to it is still on its way.
  const worn = tonight.worn ?? (start?.brings ?? []).map((partner) => partner.wears)
  const here = tonight.here ?? start?.here ?? []
  const wear = (place: number, item: Gear, on: boolean) =>
    change({
      worn: worn.map((gear, index) => (index === place ? switched(gear, item, on) : gear)),
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
            there={worn[place] ?? []}
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
            there={here}
            change={(gear, on) => change({ here: switched(here, gear, on) })}
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
    <div className="mt-2 grid gap-1">
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
