import { Chart, pathOf } from './Chart'
import { asSeconds, day, tickSeconds } from './format'

/** What a run told of two kinds of times, ms; null: too little to say. */
type TwoTimes = {
  run_id: string
  at: string
  filled_ms: number | null
  open_ms: number | null
}

type Props = {
  label: string
  height: number
  /** Least and most, ms. */
  range: readonly [number, number]
  /** What the filled and the open ones are. */
  names: readonly [string, string]
  times: readonly TwoTimes[]
  tableBeside?: boolean
}

/** Two kinds of times over the weeks: the first filled, the second open on a dashed line. */
export function TwoTimesChart({ label, height, range, names, times, tableBeside }: Props) {
  const along = times.map(({ at }) => Date.parse(at))
  return (
    <Chart
      label={label}
      height={height}
      tableBeside={tableBeside}
      along={{ range: [Math.min(...along), Math.max(...along)], below: 'days' }}
      value={{ range, ticks: Math.round(height / 42), words: tickSeconds }}
      heads={['', `${names[0]}, s`, `${names[1]}, s`]}
      rows={times.map(({ run_id, at, filled_ms, open_ms }) => ({
        id: run_id,
        along: Date.parse(at),
        cells: [day(at), asSeconds(filled_ms), asSeconds(open_ms)],
        to: `/read/${run_id}`,
      }))}
    >
      {({ x, y }) => (
        <>
          {(['filled_ms', 'open_ms'] as const).map((kind) => (
            <Series
              key={kind}
              open={kind === 'open_ms'}
              places={times.flatMap((time) => {
                const ms = time[kind]
                return ms === null ? [] : [[x(Date.parse(time.at)), y(ms)] as const]
              })}
            />
          ))}
        </>
      )}
    </Chart>
  )
}

/** places: px. */
function Series({ places, open }: { places: (readonly [number, number])[]; open: boolean }) {
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.7}>
      <path d={pathOf(places)} fill="none" strokeDasharray={open ? '4 3' : ''} />
      {places.map(([x, y], index) => (
        <circle
          key={index}
          cx={x}
          cy={y}
          r={4}
          fill={open ? 'var(--color-chalk)' : 'var(--color-ink)'}
        />
      ))}
    </g>
  )
}
