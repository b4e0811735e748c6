import type { Readout } from '../../api/types'
import { Chart, pathOf } from '../../kit/Chart'
import { asSeconds } from '../../kit/format'

/** How the right answers' times are spread, and the ex-Gaussian that fits them. */
export function Distribution({ readout }: { readout: Readout }) {
  const found = readout.reading.distribution
  if (!found) return null
  const { from_ms, bin_ms, counts, curve } = found
  const middleOf = (bin: number) => from_ms + (bin + 0.5) * bin_ms
  return (
    <figure>
      <figcaption className="small mb-1">Right answers by time, s</figcaption>
      <Chart
        label={`${found.answers} right answers from ${asSeconds(from_ms)} s on`}
        height={138}
        along={{ range: [from_ms, from_ms + bin_ms * counts.length], below: 'seconds' }}
        value={{ range: [0, Math.max(...counts, ...curve)], ticks: 3, words: () => String }}
        heads={['s', 'answers', 'the curve expects']}
        rows={counts.map((count, bin) => ({
          id: String(bin),
          along: middleOf(bin),
          cells: [
            `${asSeconds(from_ms + bin * bin_ms)} to ${asSeconds(from_ms + (bin + 1) * bin_ms)}`,
            String(count),
            curve[bin]?.toFixed(1) ?? '–',
          ],
        }))}
      >
        {({ x, y, bottom }) => (
          <>
            {counts.map((count, bin) => (
              <rect
                key={bin}
                x={x(from_ms + bin * bin_ms) + 0.5}
                width={Math.max(1, x(from_ms + bin_ms) - x(from_ms) - 1)}
                y={y(count)}
                height={bottom - y(count)}
                fill="var(--color-edge)"
                fillOpacity={0.45}
              />
            ))}
            <path
              d={pathOf(curve.map((expected, bin) => [x(middleOf(bin)), y(expected)] as const))}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth={1.8}
            />
          </>
        )}
      </Chart>
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
  const lost: [string, string][] = never ? [[String(never), 'no answer']] : []
  const few: [string, string] = ['–', `${answers} answers, too few to fit a curve`]
  return curve.length ? [tail, ...lost] : [tail, ...lost, few]
}
