import type { Passage, PartnerDrawn, PartnerStep, Way } from '../../api/types'
import { PERCEIVED, STEP_CONTACT } from '../../api/choices'
import { nameOf } from '../../kit/names'
import { CueMark } from '../../glyphs/CueMark'
import { boxes, rows, type Box } from './layout'
import { usePartnerBench } from './partnerBench'

const ROW_PX = 52
const GAP_PX = 40

type Props = { way: Way; drawn: PartnerDrawn; beat: number; add: (lane: Box['lane']) => void }

/** Feeder and defender on two lanes over beats. */
export function Lanes({ way, drawn, beat, add }: Props) {
  const { document } = usePartnerBench()
  const passages = new Map(document.passages.map((passage) => [passage.key, passage]))
  const lane = (which: Box['lane']) =>
    boxes(
      way.steps.filter((step) => stepOf(passages, step)?.lane === which),
      which,
      beat,
    )
  return (
    <>
      {(['feeder', 'defender'] as const).map((which) => {
        const drawnBoxes = lane(which)
        return (
          <div key={which} className="flex" role="group" aria-label={which}>
            <div className="sticky left-0 z-10 w-24 shrink-0 bg-chalk pt-2">
              <b>{which}</b>
              <button
                className="small block cursor-pointer hover:underline"
                onClick={() => add(which)}
              >
                add a step <kbd className="kbd-hint">{which === 'feeder' ? 'F' : 'D'}</kbd>
              </button>
            </div>
            <div
              className="relative"
              style={{
                width: way.beats * beat,
                height: rows(drawnBoxes) * (ROW_PX + GAP_PX) + 6,
                backgroundImage:
                  'linear-gradient(to right, var(--color-line) 1px, transparent 1px)',
                backgroundSize: `${beat}px 100%`,
              }}
            >
              {drawnBoxes.map((box) => (
                <StepBox
                  key={`${box.passage}.${box.step}.${box.beat}`}
                  box={box}
                  passages={passages}
                  drawn={drawn}
                />
              ))}
            </div>
          </div>
        )
      })}
    </>
  )
}

type BoxProps = { box: Box; passages: Map<string, Passage>; drawn: PartnerDrawn }

function StepBox({ box, passages, drawn }: BoxProps) {
  const { spot, choose, document, findings } = usePartnerBench()
  const place = document.passages.findIndex((passage) => passage.key === box.passage)
  const step = stepOf(passages, box)
  const words = drawn.passages[place]?.steps[box.step]
  if (!step || !words) return null
  const chosen = spot?.passage === place && spot.step === box.step
  const counter = box.lane === 'defender' && words.strikes
  const first = box.lane === 'feeder' && box.step === firstFeed(passages.get(box.passage))
  const wrong = findings.some(
    (finding) => finding.passage === box.passage && finding.step === box.step && !finding.kept,
  )
  const mark = passages.get(box.passage)?.mark
  const feet = [words.feet, ...apart(step)].filter(Boolean)
  return (
    <div
      className="absolute"
      style={{ left: box.left, width: box.width, top: 6 + box.row * (ROW_PX + GAP_PX) }}
    >
      <button
        aria-pressed={chosen}
        aria-label={`${box.lane}, beat ${step.beat}: ${words.what}`}
        onClick={() => choose(place, box.step)}
        style={{ height: ROW_PX }}
        className={`flex w-full cursor-pointer items-center gap-1 overflow-hidden border px-1 text-left text-[14px] leading-tight ${counter && words.asked ? 'border-ink bg-ink text-chalk' : words.strikes ? 'border-ink bg-chalk' : 'border-edge bg-chalk'} ${words.asked ? '' : 'hatched border-dashed'} ${chosen ? 'outline-2 outline-offset-1 outline-ink' : ''} ${wrong ? 'border-2 border-dashed' : ''}`}
      >
        {first && mark && <CueMark mark={mark} size={16} />}
        <span className="line-clamp-2">{words.what}</span>
      </button>
      <span className="small line-clamp-2 block leading-4.5">{feet.join(' · ')}</span>
    </div>
  )
}

/** What is not as usual of a step: how hard it lands, how the other one takes it in, whether it comes. */
function apart({ contact, perceived, when }: PartnerStep) {
  const hard = contact === 'none' ? '' : nameOf(STEP_CONTACT, contact)
  return [hard, perceived === 'seen' ? '' : nameOf(PERCEIVED, perceived), when ? 'may come' : '']
}

function stepOf(passages: Map<string, Passage>, at: { passage: string; step: number }) {
  return passages.get(at.passage)?.steps[at.step]
}

function firstFeed(passage: Passage | undefined): number {
  let first = -1
  passage?.steps.forEach((step, place) => {
    const before = passage.steps[first]
    if (step.lane === 'feeder' && (!before || step.beat < before.beat)) first = place
  })
  return first
}
