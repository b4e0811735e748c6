import type { PairShare } from '../../api/types'

/** Clean shares with their intervals, as bars. */
export function Shares({ title, shares }: { title: string; shares: readonly PairShare[] }) {
  if (shares.length < 2) return null // one group says what the whole says
  return (
    <section>
      <h2 className="mb-1 text-xl">{title}</h2>
      <ul className="flex flex-col gap-1">
        {shares.map((row) => {
          const share = row.graded ? row.clean / row.graded : 0
          return (
            <li key={row.name} className="grid grid-cols-[9rem_1fr_5.5rem] items-center gap-2">
              <span className="truncate" title={row.name}>
                {row.name}
              </span>
              <span className="relative block h-4 bg-wash">
                <span
                  className="absolute inset-y-0 left-0 bg-ink"
                  style={{ width: `${share * 100}%` }}
                />
                {row.interval && (
                  <span
                    className="absolute top-1/2 h-0.5 -translate-y-1/2 bg-edge"
                    style={{
                      left: `${row.interval.low * 100}%`,
                      width: `${(row.interval.high - row.interval.low) * 100}%`,
                    }}
                  />
                )}
              </span>
              <span className="figures text-right text-base">
                {row.clean} of {row.graded}
              </span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
