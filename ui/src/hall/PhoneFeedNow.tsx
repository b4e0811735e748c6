import type { PhoneView } from '../api/types'
import { CueMark } from '../glyphs/CueMark'

type Props = { view: PhoneView; elapsed_s: number }

/** What comes next for whoever feeds: a card of numbers, or the next attack and when. */
export function PhoneFeedNow({ view, elapsed_s }: Props) {
  const cards = view.cards.filter(({ from_s, to_s }) => from_s <= elapsed_s && elapsed_s < to_s)
  if (view.feed_way === 'numbered') {
    return (
      <>
        {cards.map((card) => (
          <section key={card.part} className="phone-card" aria-label="Your card">
            <h2>
              Your card{card.of > 1 && `, part ${card.part + 1} of ${card.of}`}: keep it to yourself
            </h2>
            <ol>
              {card.lines.map(({ number, call }) => (
                <li key={number}>
                  <b className="figures">{number}</b> {call}
                </li>
              ))}
            </ol>
          </section>
        ))}
      </>
    )
  }
  const next = view.feeds.find(({ ends_s }) => ends_s > elapsed_s)
  if (!next) {
    const words = view.feed_way === 'paper' ? 'From your sheet of paper.' : 'You choose.'
    return <p className="phone-next">{words}</p>
  }
  const in_s = next.at_s - elapsed_s
  return (
    <section className="phone-next" aria-label="What you feed next">
      <p className="phone-call">
        <CueMark mark={next.mark} size={72} />
        <span>{next.call}</span>
      </p>
      <p>
        {[
          next.then.length > 0 && `then ${next.then.join(', then ')}`,
          next.tell === 'trimmed' && 'small wind-up',
          next.tell === 'big' && 'big wind-up',
          !next.counter && 'no opening',
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <p className="figures phone-count">{in_s > 0 ? Math.ceil(in_s) : 'now'}</p>
    </section>
  )
}
