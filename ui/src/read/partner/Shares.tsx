import type { PairShare } from '../../api/types'

/** Clean shares with their intervals, as bars. */
export function Shares({ title, shares }: { title: string; shares: readonly PairShare[] }) {
  if (shares.length < 2) return null // one group says what the whole says
  return (
    <section>
      <h2 className="mb-1 text-xl">{title}</h2>
      <ul className="flex flex-col gap-1">
        {shares.map((each) => {
          const share = each.graded ? each.clean / each.graded : 0
          return (
            <li key={each.name} className="grid grid-cols-[9rem_1fr_5.5rem] items-center gap-2">
              <span className="truncate" title={each.name}>
                {each.name}
              </span>
              <span className="relative block h-4 bg-wash">
                <span
                  className="absolute inset-y-0 left-0 bg-ink"
                  style={{ width: `${share * 100}%` }}
                />
                {each.interval && (
                  <span
                    className="absolute top-1/2 h-0.5 -translate-y-1/2 bg-edge"
                    style={{
                      left: `${each.interval.low * 100}%`,
                      width: `${(each.interval.high - each.interval.low) * 100}%`,
                    }}
                  />
                )}
              </span>
              <span className="figures text-right text-base">
                {each.clean} of {each.graded}
              </span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
