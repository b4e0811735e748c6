import type { GapSheet, PartnerDrawn, Way } from '../../api/types'
import { GapScale } from './layout'
import { usePartnerBench } from './partnerBench'

const HEIGHT = 132
const SHADES = ['#c9cac6', '#d9dad6', '#e5e6e2', '#f0f0ed'] as const

type Props = { way: Way; sheet: GapSheet; drawn: PartnerDrawn; beat: number }

/** The gap after each step over the bands of this pair, and what does not reach. */
export function GapLine({ way, sheet, drawn, beat }: Props) {
  const { document, choose, spot } = usePartnerBench()
  const scale = new GapScale(sheet, way, HEIGHT)
  const width = way.beats * beat
  const x = (at: number) => (at - 1) * beat + 10
  const points = way.gap
  const line = [
    `M0 ${scale.y(way.start_m)}`,
    ...points.map((point) => `L${x(point.beat)} ${scale.y(point.gap_m)}`),
    `L${width} ${scale.y(way.start_m)}`,
  ].join('')
  const place = (key: string) => document.passages.findIndex((passage) => passage.key === key)
  const isChosen = (point: Way['gap'][number]) =>
    spot?.passage === place(point.passage) && spot.step === point.step
  const short = points.filter((point) => point.short_m !== null)
  const named = short.find(isChosen) ?? short[0]
  return (
    <div className="flex">
      <div className="sticky left-0 z-10 w-24 shrink-0 bg-chalk">
        <b>distance</b>
        <Bands scale={scale} sheet={sheet} />
      </div>
      <div>
        <svg
          className="block"
          width={width}
          height={HEIGHT + 2}
          role="img"
          aria-label={`Distance after each step, from ${way.start_m.toFixed(2)} m`}
        >
          {sheet.bands.map((band, index) => {
            const top = scale.y(band.to_m)
            const from = sheet.bands[index - 1]?.to_m ?? scale.least
            return (
              <rect
                key={band.reach}
                x={0}
                y={top}
                width={width}
                height={Math.max(0, scale.y(from) - top)}
                fill={SHADES[index]}
              />
            )
          })}
          <line
            x1={0}
            x2={width}
            y1={scale.y(sheet.safe_gap_m)}
            y2={scale.y(sheet.safe_gap_m)}
            stroke="var(--color-ink)"
            strokeDasharray="4 3"
          />
          <path d={line} fill="none" stroke="var(--color-ink)" strokeWidth={2} />
          {points.map((point) => {
            const at = place(point.passage)
            const chosen = isChosen(point)
            const y = scale.y(point.gap_m)
            const name = drawn.passages[at]?.steps[point.step]?.what
            return (
              <g
                key={`${point.passage}.${point.step}.${point.beat}`}
                className="cursor-pointer"
                onClick={() => choose(at, point.step)}
              >
                {point.short_m !== null && (
                  <circle cx={x(point.beat)} cy={y} r={9} fill="none" stroke="var(--color-ink)" />
                )}
                <circle
                  cx={x(point.beat)}
                  cy={y}
                  r={chosen ? 5.5 : 4}
                  fill={chosen ? 'var(--color-ink)' : 'var(--color-chalk)'}
                  stroke="var(--color-ink)"
                  strokeWidth={2}
                />
                {point === named && (
                  <text
                    x={Math.min(x(point.beat) + 14, width - 4)}
                    y={y - 8}
                    fontSize={13}
                    fontWeight={600}
                    textAnchor={x(point.beat) > width * 0.7 ? 'end' : 'start'}
                  >
                    {name} {Math.ceil((point.short_m ?? 0) * 100)} cm short
                  </text>
                )}
              </g>
            )
          })}
        </svg>
        <p className="small w-max">
          they start at {way.start_m.toFixed(2)} m, and go back to it after{' '}
          {way.beats === 1 ? 'a beat' : `${way.beats} beats`}; beyond {sheet.safe_gap_m.toFixed(2)}{' '}
          m nobody’s rear leg reaches
        </p>
      </div>
    </div>
  )
}

/** The names of the bands, in the middle of each, and where they end. */
function Bands({ scale, sheet }: { scale: GapScale; sheet: GapSheet }) {
  return (
    <div className="relative" style={{ height: 0 }}>
      {sheet.bands.map((band, index) => {
        const from = sheet.bands[index - 1]?.to_m ?? scale.least
        const middle = scale.y((from + band.to_m) / 2)
        return (
          <span
            key={band.reach}
            className="small absolute right-2 leading-none whitespace-nowrap"
            style={{ top: middle - 30 }}
          >
            {band.reach} <span className="figures">{band.to_m.toFixed(2)}</span>
          </span>
        )
      })}
    </div>
  )
}
