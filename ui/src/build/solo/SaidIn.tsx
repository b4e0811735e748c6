import type { DrawnRound } from '../../api/types'
import { minutes } from '../../kit/format'

const SPOKEN = 'spoken:'

type Line = { at_s: number; words: string }

/** What is said in a round that is counted or held; numbers in a row stand as one. */
export function SaidIn({ round }: { round: DrawnRound }) {
  return (
    <ol className="said-in">
      {linesOf(round).map((line) => (
        <li key={`${line.at_s} ${line.words}`}>
          <span className="figures">{minutes(line.at_s)}</span> {line.words}
        </li>
      ))}
    </ol>
  )
}

function linesOf(round: DrawnRound): Line[] {
  const lines: Line[] = []
  let first = ''
  for (const sound of round.sounds.filter(({ clip }) => clip.startsWith(SPOKEN))) {
    const words = sound.clip.slice(SPOKEN.length)
    const last = lines[lines.length - 1]
    if (first && last && isNumber(words) && Number(words) > Number(first)) {
      last.words = `${first} to ${words}`
      continue
    }
    first = isNumber(words) ? words : ''
    lines.push({ at_s: sound.at_s, words })
  }
  return lines
}

function isNumber(words: string): boolean {
  return /^\d+$/.test(words)
}
