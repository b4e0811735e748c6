import type { Drill } from '../api/types'

type Props = {
  rungs: Drill['rungs']
  rung: number
  standing: number | undefined
  choose: (rung: number) => void
}

/** The steps of a drill, from slow and apart upward. */
export function Ladder({ rungs, rung, standing, choose }: Props) {
  return (
    <div className="mt-auto border-t border-line pt-3">
      <p className="small mb-2">Ladder</p>
      <div className="grid auto-cols-fr grid-flow-col gap-1.5" role="group" aria-label="Rungs">
        {rungs.map((each, index) => {
          const number = index + 1
          const chosen = number === rung
          return (
            <button
              key={number}
              aria-pressed={chosen}
              onClick={() => choose(number)}
              className={`min-h-16 cursor-pointer border px-2.5 py-2 text-left leading-tight ${chosen ? 'border-ink bg-ink text-chalk' : 'border-line hover:border-ink'}`}
            >
              <b className="figures text-lg">{number}</b> {each.name}
              {standing === number && (
                <span className={`block text-[13px] ${chosen ? '' : 'text-soft'}`}>
                  stands here
                </span>
              )}
            </button>
          )
        })}
      </div>
    </div>
  )
}
