/** A code for a phone's camera. size: squares on a side; squares: as an SVG path, one unit a square. */
export function SquareCode(props: { size: number; squares: string; label: string }) {
  const around = 4 // the quiet zone that ISO/IEC 18004 asks for
  const size = props.size + 2 * around
  return (
    <svg viewBox={`${-around} ${-around} ${size} ${size}`} role="img" aria-label={props.label}>
      <rect x={-around} y={-around} width={size} height={size} fill="#fff" />
      <path d={props.squares} fill="#000" shapeRendering="crispEdges" />
    </svg>
  )
}
