import { pathOf } from './Chart'

type Props = {
  /** Px. */
  places: readonly (readonly [number, number])[]
  /** Open circles on a dashed line, to be told from filled ones. */
  open: boolean
  'data-side'?: string
}

/** Values of one kind in a chart, joined by a line. */
export function Series({ places, open, ...marked }: Props) {
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.7} {...marked}>
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
