import { useQuery } from '@tanstack/react-query'

import { readoutQuery } from '../../api/queries'
import { Wide } from '../../kit/Wide'
import { asSeconds } from '../../kit/format'
import { Strip } from '../../strip/Strip'

type Props = { run: string; round?: number }

/** For the student: two figures of the run so far, and the strip of a round, or of the last one. */
export default function RoundSeen({ run, round }: Props) {
  // The floor asks to sign in by itself, and stays.
  const { data } = useQuery({ ...readoutQuery(run), meta: { asksItself: true } })
  const last = Math.max(0, ...(data?.responses ?? []).map((response) => response.round))
  const number = round ?? last
  const shown = data?.responses.filter((response) => response.round === number) ?? []
  if (data?.run.away) return <p>Nothing was answered, so nothing is kept.</p>
  if (!data || shown.length === 0) return null
  const { summary } = data
  const slowest_ms = shown.map((one) => Math.max(one.window_ms, one.time_ms ?? 0))
  return (
    <section aria-label="How it went" className="floor-seen">
      <p className="flex flex-wrap justify-center gap-x-12">
        <Figure value={`${summary.clean} of ${summary.count}`} name="clean" />
        <Figure value={`${asSeconds(summary.median_ms)} s`} name="median answer" />
      </p>
      <div className="bg-chalk p-3">
        <Wide first={900}>
          {(width) => (
            <Strip
              cues={data.document.cues}
              to_s={data.durations_s[number - 1] ?? 60}
              responses={shown}
              most_s={Math.max(1, ...slowest_ms.map((ms) => ms / 1000)) * 1.05}
              width={width}
              label={`Round ${number}: ${shown.length} cues and their answers`}
            />
          )}
        </Wide>
      </div>
    </section>
  )
}

function Figure({ value, name }: { value: string; name: string }) {
  return (
    <span>
      <span className="figures text-5xl text-white">{value}</span>{' '}
      <span className="text-floor-soft">{name}</span>
    </span>
  )
}
