import type { Grade, PairReadout } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { GRADES } from '../../glyphs/grades'

const MOST = 30

/** Columns in which rows of at most `MOST` come out about even. */
function columnsFor(count: number): number {
  return Math.max(16, Math.ceil(count / Math.ceil(count / MOST)))
}

/** Every exchange in order, round by round: its mark, and what became of it by shape. */
export function ExchangeStrip({ read }: { read: PairReadout }) {
  const { run, exchanges } = read
  const marks = new Map(run.document.passages.map((passage) => [passage.key, passage.mark]))
  const rounds = [...new Set(exchanges.map((exchange) => exchange.round))]
  const of = (round: number) => exchanges.filter((exchange) => exchange.round === round)
  const columns = Math.max(16, ...rounds.map((round) => columnsFor(of(round).length)))
  if (exchanges.length === 0) return <p>No exchange was marked.</p>
  return (
    <section aria-label="Exchanges">
      {rounds.map((round) => (
        <div key={round} className="mb-2 flex gap-3">
          <span className="small w-16 shrink-0 pt-1">round {round}</span>
          <ol
            className="grid flex-1 gap-y-2"
            style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
          >
            {of(round).map((exchange) => {
              const way = exchange.path
                .slice(0, 2)
                .map((key) => marks.get(key.split('+')[0] ?? key))
              const words = wordsOf(exchange)
              return (
                <li
                  key={exchange.number}
                  title={words}
                  aria-label={words}
                  className="flex flex-col items-center gap-0.5"
                >
                  <GradeShape grade={exchange.grade} watched={exchange.watched} />
                  <span className="flex">
                    {way.map(
                      (mark, place) => mark && <CueMark key={place} mark={mark} size={14} />,
                    )}
                  </span>
                  <span className="figures h-4 text-sm leading-none">
                    {exchange.faults.length || ''}
                  </span>
                </li>
              )
            })}
          </ol>
        </div>
      ))}
      <Legend read={read} />
    </section>
  )
}

function wordsOf({ number, grade, watched, faults }: PairReadout['exchanges'][number]): string {
  const name = grade
    ? (GRADES.get(grade)?.name ?? grade)
    : watched
      ? 'watched, clean'
      : 'not graded'
  return [`exchange ${number}: ${name}`, ...faults].join(', ')
}

/** A grade told by shape: a cross for what landed, filled for a counter, open for what was kept out. */
function GradeShape({ grade, watched = false }: { grade: Grade | null; watched?: boolean }) {
  const ink = { stroke: 'var(--color-ink)', strokeWidth: 1.6 }
  return (
    <svg width={18} height={18} aria-hidden="true">
      {(grade === 'struck' || grade === 'wrong') && (
        <path d="M4 4l10 10m0-10l-10 10" fill="none" {...ink} strokeWidth={3} />
      )}
      {grade === 'countered' && <circle cx={9} cy={9} r={6} fill="var(--color-ink)" />}
      {grade === 'covered' && <rect x={3.5} y={3.5} width={11} height={11} fill="none" {...ink} />}
      {grade === 'deflected' && <path d="M3 14L9 4l6 10Z" fill="none" {...ink} />}
      {grade === 'evaded' && <circle cx={9} cy={9} r={5.6} fill="none" {...ink} />}
      {grade === 'off_line' && <path d="M3 9L9 3l6 6l-6 6Z" fill="none" {...ink} />}
      {grade === 'right' && <rect x={3.5} y={3.5} width={11} height={11} fill="var(--color-ink)" />}
      {grade === 'late' && (
        <>
          <circle cx={9} cy={9} r={5.6} fill="none" {...ink} />
          <path d="M9 5.5V9H12" fill="none" {...ink} />
        </>
      )}
      {grade === null && watched && <circle cx={9} cy={9} r={2.2} fill="var(--color-ink)" />}
      {grade === null && !watched && <path d="M5 9h8" fill="none" {...ink} />}
    </svg>
  )
}

function Legend({ read }: { read: PairReadout }) {
  const given = read.exchanges.flatMap(({ grade }) => (grade ? [grade] : []))
  const grades = [...new Set([...read.run.grades, ...given])]
  return (
    <ul className="small flex flex-wrap gap-x-4">
      {grades.map((grade) => (
        <li key={grade} className="flex items-center gap-1.5">
          <GradeShape grade={grade} />
          {GRADES.get(grade)?.name}
        </li>
      ))}
      {read.reading.watched && (
        <li className="flex items-center gap-1.5">
          <GradeShape grade={null} watched />
          watched, clean
        </li>
      )}
      <li>a figure below: faults tagged</li>
    </ul>
  )
}
