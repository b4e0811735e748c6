import type { AnyDrill, SchoolLine } from '../../api/types'

export function Said({ title, words }: { title: string; words: string }) {
  if (!words) return null
  return (
    <p>
      <b>{title}:</b> {words}
    </p>
  )
}

/** What a coach says before it starts: where to look, which guard, what to warm up, which school. */
export function SaidFirst({ document, schools }: { document: AnyDrill; schools: SchoolLine[] }) {
  return (
    <>
      <Said title="Look" words={document.look} />
      <Said title="Guard" words={document.guard} />
      <Said title="Warm-up" words={document.warm_up} />
      {schools.map((line) => (
        <Said key={line.question} title={line.asked} words={`${line.follows}. ${line.why}`} />
      ))}
    </>
  )
}
