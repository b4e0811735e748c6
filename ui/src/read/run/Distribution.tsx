import { scaleLinear } from 'd3-scale'

import type { Readout } from '../../api/types'
import { asSeconds, tickSeconds } from '../../kit/format'

const WIDTH = 440
const HEIGHT = 128
const BASE = HEIGHT - 18

/** How the right answers' times are spread, and the ex-Gaussian that fits them. */
export function Distribution({ readout }: { readout: Readout }) {
  const found = readout.reading.distribution
  if (!found) return null
  const { from_ms, bin_ms, counts, curve } = found
  const most = Math.max(...counts, ...curve)
  const x = scaleLinear([from_ms, from_ms + bin_ms * counts.length], [4, WIDTH - 8])
  const y = scaleLinear([0, most], [BASE, 8])
  const inSeconds = tickSeconds(x.ticks(6))
  const line = curve.map(
    (expected, bin) =>
      `${bin ? 'L' : 'M'}${x(from_ms + (bin + 0.5) * bin_ms).toFixed(1)} ${y(expected).toFixed(1)}`,
  )
  return (
    <figure>
      <figcaption className="small mb-1">Right answers by time, s</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`${found.answers} right answers from ${asSeconds(from_ms)} s on`}
        fontSize={12}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {counts.map((count, bin) => (
          <rect
            key={bin}
            x={x(from_ms + bin * bin_ms) + 0.5}
            width={Math.max(1, x(from_ms + bin_ms) - x(from_ms) - 1)}
            y={y(count)}
            height={BASE - y(count)}
            fill="var(--color-line)"
          />
        ))}
        {x.ticks(6).map((tick) => (
          <text key={tick} x={x(tick)} y={HEIGHT - 3} textAnchor="middle">
            {inSeconds(tick)}
          </text>
        ))}
        <line x1={0} x2={WIDTH} y1={BASE} y2={BASE} stroke="var(--color-edge)" />
        <path d={line.join('')} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} />
      </svg>
      <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
        {words(found).map(([figure, phrase]) => (
          <div key={phrase} className="flex items-baseline gap-1.5">
            <dd className="figures text-lg">{figure}</dd>
            <dt className="small">{phrase}</dt>
          </div>
        ))}
      </dl>
    </figure>
  )
}

type Found = NonNullable<Readout['reading']['distribution']>

function words(found: Found): [string, string][] {
  const { curve, slow, never, answers } = found
  const tail: [string, string] = [`${slow} of ${answers}`, 'slow: over 1½ times the median']
  const lost: [string, string][] = never ? [[String(never), 'never came']] : []
  const few: [string, string] = ['–', `${answers} answers, too few to fit a curve`]
  return curve.length ? [tail, ...lost] : [tail, ...lost, few]
}
