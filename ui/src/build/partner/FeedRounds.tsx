import type { FeedSheet, PartnerDrill, PartnerRung } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { nameOfPassage, passageOf, rolesOf } from '../../run/partner/course'
import { minutes } from '../../kit/format'

type Round = FeedSheet['rounds'][number]
type Turn = Round['turns'][number]
type Feed = Turn['feeds'][number]

/** What the feeder does in each exchange, in words, by its key. */
export type Attacks = ReadonlyMap<string, string>
type Props = {
  feeds: FeedSheet
  drill: PartnerDrill
  rung: PartnerRung
  names: string[]
  attacks: Attacks
}

/** The exchanges of every round, turn by turn. */
export function FeedRounds({ feeds, drill, rung, names, attacks }: Props) {
  const inTurn = rung.rounds.stances === 'in_turn'
  const goesRound = feeds.rounds.some((round) =>
    round.turns.some((turn) => turn.feeds.some((feed) => feed.goes_on)),
  )
  return (
    <>
      {goesRound && <Marks drill={drill} />}
      {feeds.rounds.map((round) => (
        <section key={round.number}>
          <h2>
            Round {round.number} · {minutes(round.duration_s)}
            {inTurn && ` · ${round.stance === 'right_lead' ? 'right' : 'left'} hand leads`}
          </h2>
          {inTurnByAttack(rung) ? (
            <AttackByAttack
              turns={round.turns}
              drill={drill}
              names={names}
              attacks={firstTold(round, attacks)}
            />
          ) : (
            round.turns.map((turn) => (
              <TurnList
                key={turn.from_s}
                turn={turn}
                drill={drill}
                names={names}
                attacks={firstTold(round, attacks)}
              />
            ))
          )}
        </section>
      ))}
    </>
  )
}

/** What is done, told where an exchange comes first in a round: by the number of its feed. */
function firstTold(round: Round, attacks: Attacks): ReadonlyMap<number, string> {
  const named = new Set<string>()
  const firsts = new Map<number, string>()
  for (const feed of round.turns.flatMap((turn) => turn.feeds)) {
    const key = feed.path[0]?.passage ?? ''
    const words = attacks.get(key)
    if (words && !named.has(key)) firsts.set(feed.number, words)
    named.add(key)
  }
  return firsts
}

/** Where a drill goes round, exchanges are told by their marks alone. */
function Marks({ drill }: { drill: PartnerDrill }) {
  return (
    <p className="feed-marks">
      {drill.passages.map((passage) => (
        <span key={passage.key}>
          <CueMark mark={passage.mark} size={14} /> {passage.name}
        </span>
      ))}
    </p>
  )
}

function inTurnByAttack({ turns }: PartnerRung): boolean {
  return turns.switch === 'count' && turns.every === 1
}

type Told = { attacks: ReadonlyMap<number, string> }
type AttackProps = Told & { turns: readonly Turn[]; drill: PartnerDrill; names: string[] }

/** They attack in turn: one list, with whose attack each is. */
function AttackByAttack({ turns, drill, names, attacks }: AttackProps) {
  return (
    <div className="feed-turn">
      <p>
        <b>In turn, attack by attack</b>
      </p>
      <ol>
        {turns.flatMap((turn) =>
          turn.feeds.map((feed) => (
            <FeedLine
              key={feed.number}
              line={[feed]}
              turn={turn}
              drill={drill}
              names={names}
              attacks={attacks}
              whose
            />
          )),
        )}
      </ol>
    </div>
  )
}

type TurnProps = Told & { turn: Turn; drill: PartnerDrill; names: string[] }

function TurnList({ turn, drill, names, attacks }: TurnProps) {
  const swaps = turn.feeds.some((feed) => feed.swapped)
  return (
    <div className="feed-turn">
      <p>
        <b>{who(turn.feeder, names)} feeds</b>, {who(turn.defender, names)} defends
        {turn.out !== null && `, ${who(turn.out, names)} rests`}
        {swaps && '; the roles change as it goes round'}
      </p>
      <ol>
        {together(turn.feeds).map((line) => (
          <FeedLine
            key={line[0]?.number}
            line={line}
            turn={turn}
            drill={drill}
            names={names}
            attacks={attacks}
          />
        ))}
      </ol>
    </div>
  )
}

/** Exchanges on one line each; of those that go on without a pause, as many as fit on it. */
function together(feeds: readonly Feed[]): Feed[][] {
  const lines: Feed[][] = []
  for (const feed of feeds) {
    const line = lines[lines.length - 1]
    if (line && feed.goes_on && line.length < ON_A_LINE) line.push(feed)
    else lines.push([feed])
  }
  return lines
}

const ON_A_LINE = 6
const SHOWN = 6

type LineProps = TurnProps & { line: readonly Feed[]; whose?: boolean }

function FeedLine({ line, turn, drill, names, attacks, whose = false }: LineProps) {
  const feed = line[0]
  if (!feed) return null
  const first = passageOf(drill, feed.path[0]?.passage ?? '')
  const path = line.flatMap((fed) => fed.path)
  const words = path.map((part) => nameOfPassage(drill, part.passage))
  if (feed.goes_on || line.length > 1) {
    const { feeder } = rolesOf(turn, feed)
    return (
      <li>
        <span className="figures">{clock(feed.at_s)}</span>
        {feeder !== turn.feeder && <span>{who(feeder, names)}</span>}
        {path.map((part, place) => {
          const mark = passageOf(drill, part.passage)?.mark
          return mark && <CueMark key={place} mark={mark} size={14} />
        })}
      </li>
    )
  }
  return (
    <li>
      <span className="figures">{clock(feed.at_s)}</span>
      {first && <CueMark mark={first.mark} size={14} />}
      <span className="feed-words">
        {whose && `${who(turn.feeder, names)}: `}
        {words.slice(0, SHOWN).join(' → ')}
        {words.length > SHOWN && ` … ${words.length} in all`}
        {feed.tell === 'trimmed' && ', small wind-up'}
        {!feed.counter && ', no opening'}
        {attacks.has(feed.number) && <i className="block">{attacks.get(feed.number)}</i>}
      </span>
    </li>
  )
}

function who(number: number, names: string[]): string {
  return names[number] ?? 'the third'
}

function clock(seconds: number): string {
  const whole = Math.round(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
