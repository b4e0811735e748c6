/** From so many students on, a list of them has a field to find one. */
export const WORTH_FINDING = 15

type Props = { asked: string; ask: (asked: string) => void }

/** Finds a student by name in a long list. */
export function FindStudent({ asked, ask }: Props) {
  return (
    <input
      type="search"
      className="input"
      aria-label="Find a student"
      placeholder="Find a student"
      value={asked}
      onChange={(event) => ask(event.target.value)}
    />
  )
}
