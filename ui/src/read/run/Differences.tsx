import { CONTRAST_NAMES } from '../../api/choices'
import { scaleLinear } from 'd3-scale'

import type { Readout } from '../../api/types'
import { shiftRange, shiftWords } from '../../kit/shift'

const WIDTH = 180
const ROW = 24

type Line = { name: string; middle: number; low: number; high: number; told: boolean }

/** What makes answers slower in this run, each with its 95 % interval. */
export function Differences({ readout }: { readout: Readout }) {
  const { compared, tiring, queue } = readout.reading
  const lines = compared.flatMap(({ contrast, found }) =>
    found
      ? [lineOf(CONTRAST_NAMES[contrast], found.middle_ms, found.low_ms, found.high_ms, found.told)]
      : [],
  )
  if (tiring)
    lines.push(lineOf('a minute further on', tiring.slope, tiring.low, tiring.high, tiring.told))
  const few = compared.flatMap(({ contrast, found }) => (found ? [] : [CONTRAST_NAMES[contrast]]))
  const reach = Math.max(60, ...lines.flatMap((line) => [Math.abs(line.low), Math.abs(line.high)]))
  const x = scaleLinear([-reach, reach], [6, WIDTH - 6])
  return (
    <section aria-label="Differences">
      <p className="small mb-1">
        What makes a difference: median shift and its 95 % interval, ms. Filled: a clear difference
      </p>
      <table className="w-full">
        <tbody>
          {lines.map((line) => (
            <tr key={line.name} className="border-t border-line">
              <td className="py-1">{line.name}</td>
              <td className="w-[180px]">
                <Picture line={line} x={x} />
              </td>
              <td className="w-[11.5rem] pl-3 whitespace-nowrap">
                {shiftWords(line.middle, line.told)}{' '}
                <span className="figures text-base text-soft">
                  {shiftRange(line.low, line.high)}
                </span>
              </td>
            </tr>
          ))}
          {few.map((name) => (
            <tr key={name} className="border-t border-line text-soft">
              <td className="py-1">{name}</td>
              <td />
              <td className="small pl-3">too few answers yet</td>
            </tr>
          ))}
        </tbody>
      </table>
      {queue?.told && queue.slope < 0 && (
        <p className="small mt-1">
          In overlapping pairs the second answer comes {(-queue.slope).toFixed(2)} ms sooner for
          each ms of gap, {(-queue.high).toFixed(2)} to {(-queue.low).toFixed(2)}; at 1 it waits for
          the first.
        </p>
      )}
      <p className="small mt-1">
        {!readout.device.calibrated && 'This device is not measured. '}
        Differences hold within one channel and one input; between sound and light, what loudspeaker
        and display add to each is in it.
      </p>
    </section>
  )
}

function lineOf(name: string, middle: number, low: number, high: number, told: boolean): Line {
  return { name, middle, low, high, told }
}

function Picture({ line, x }: { line: Line; x: (value: number) => number }) {
  const { middle, low, high, told } = line
  return (
    <svg viewBox={`0 0 ${WIDTH} ${ROW}`} className="block w-full" aria-hidden="true">
      <line x1={x(0)} x2={x(0)} y1={0} y2={ROW} stroke="var(--color-edge)" />
      <line
        x1={x(low)}
        x2={x(high)}
        y1={ROW / 2}
        y2={ROW / 2}
        stroke="var(--color-ink)"
        strokeWidth={2}
      />
      <circle
        cx={x(middle)}
        cy={ROW / 2}
        r={4}
        stroke="var(--color-ink)"
        fill={told ? 'var(--color-ink)' : 'var(--color-chalk)'}
      />
    </svg>
  )
}
