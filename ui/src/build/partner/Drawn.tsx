import { useState } from 'react'

import { GapLine } from './GapLine'
import { Lanes } from './Lanes'
import { beatWidth } from './layout'
import { PassageEditor } from './PassageEditor'
import { usePartnerBench } from './partnerBench'
import { StepEditor } from './StepEditor'
import { Times } from './Times'
import { useWidth } from '../../kit/useWidth'
import { Ways } from './Ways'
import type { Way } from '../../api/types'

const LABEL_PX = 96

type Props = { addPassage: () => void; addStep: (lane: 'feeder' | 'defender') => void }

/** The chosen way through the drill: lanes, gap line, times, and what is chosen in it. */
export function Drawn({ addPassage, addStep }: Props) {
  const { document, drawn, passage, spot, choose } = usePartnerBench()
  const [wanted, setWanted] = useState<string | null>(null)
  const [room, width] = useWidth(820)
  const sheet = drawn?.sheet
  const ways = sheet?.ways ?? []
  const key = document.passages[passage]?.key ?? ''
  const asked = ways.findIndex((way) => way.passages.join(' ') === wanted)
  const has = (way: Way | undefined, wanted: string) =>
    way?.passages.some((done) => written(done) === wanted) ?? false
  const holds = (index: number) => has(ways[index], key)
  const through = ways.findIndex((way) => has(way, key))
  const chosen = asked >= 0 && holds(asked) ? asked : Math.max(0, through)
  const way = ways[chosen]
  const beat = beatWidth(way?.beats ?? 4, width - LABEL_PX)
  const pick = (index: number) => {
    const way = ways[index]
    setWanted(way?.passages.join(' ') ?? null)
    const last = way?.passages[way.passages.length - 1]
    choose(document.passages.findIndex((passage) => passage.key === written(last ?? '')))
  }
  return (
    <>
      <Ways ways={ways} chosen={chosen} choose={pick} add={addPassage} />
      <div ref={room} className="overflow-x-auto">
        {way && drawn && sheet && (
          <div className="w-max">
            <Beats starts={way.starts} beats={way.beats} beat={beat} />
            <Lanes way={way} drawn={drawn} beat={beat} add={addStep} />
            <GapLine way={way} sheet={sheet} drawn={drawn} beat={beat} />
          </div>
        )}
      </div>
      {spot ? <StepEditor /> : <PassageEditor />}
      {sheet && <Times sheet={sheet} />}
    </>
  )
}

/** The key of a passage as it stands in the drill, without what came in the middle of it. */
function written(key: string): string {
  return key.split('+')[0] ?? key
}

/** The beats, counted anew in each passage. */
function Beats(props: { starts: readonly number[]; beats: number; beat: number }) {
  const { starts, beats, beat } = props
  const counted = Array.from({ length: Math.floor(beats) }, (_, index) => {
    const from = starts.filter((start) => start <= index).pop() ?? 0
    return { at: index, number: index - Math.floor(from) + 1, first: index > 0 && from === index }
  })
  return (
    <div className="flex" aria-hidden="true">
      <span className="sticky left-0 z-10 w-24 shrink-0 bg-chalk" />
      <div className="relative h-6" style={{ width: beats * beat }}>
        {counted.map((finding) => (
          <span
            key={finding.at}
            className={`figures absolute text-lg ${finding.first ? 'border-l-2 border-ink pl-1' : 'pl-0.5'}`}
            style={{ left: finding.at * beat }}
          >
            {finding.number}
          </span>
        ))}
      </div>
    </div>
  )
}
