import type { LiveEvening, Tile } from '../api/types'

type Props = { live: LiveEvening; open: (key: Tile['key']) => void }

/** The pairs of the block that is on: whom to look at comes first. */
export function Tiles({ live, open }: Props) {
  const paired = live.blocks.find(({ key }) => key === live.clock.block)
  const inPairs = paired?.kind === 'partner' || paired?.kind === 'free'
  if (!inPairs) {
    return (
      <section className="class-tiles" aria-label="The blocks">
        <ol className="class-plan">
          {live.blocks.map((block) => (
            <li key={block.key} aria-current={block.key === live.clock.block ? 'step' : undefined}>
              <span dir="auto">{block.name}</span>
              <span className="figures">{block.minutes} min</span>
            </li>
          ))}
        </ol>
      </section>
    )
  }
  return (
    <section className="class-tiles" aria-label="The pairs">
      {live.tiles.length === 0 && (
        <p className="p-4 text-xl">Nobody is put together yet: do it under Plan and people.</p>
      )}
      <ul>
        {live.tiles.map((tile, place) => (
          <li key={tile.key}>
            <button
              className="class-tile"
              data-first={place === 0 && tile.why.length > 0 ? true : undefined}
              onClick={() => open(tile.key)}
            >
              <b dir="auto">{tile.members.map(({ name }) => name).join(' · ')}</b>
              <span className="class-why">{tile.why.join(', ') || seenOf(tile)}</span>
              <span className="small">
                {[
                  tile.through > 0 && `${tile.through} got through`,
                  tile.limit,
                  tile.pace !== 1 && `feed at ${Math.round(tile.pace * 100)} %`,
                  ...tile.faults,
                  ...tile.members.map(({ name, note }) => note && `${name}: ${note}`),
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {live.alone.length > 0 && (
        <p className="px-4 py-2" role="note">
          With nobody: <b>{live.alone.join(', ')}</b>
        </p>
      )}
    </section>
  )
}

function seenOf({ looked, unseen_s, watched_s }: Tile): string {
  if (!looked) return 'not looked at yet'
  const ago = unseen_s < 60 ? 'just looked at' : `looked at ${Math.round(unseen_s / 60)} min ago`
  return watched_s > 0 ? `${ago}, watched ${Math.round(watched_s)} s` : ago
}
