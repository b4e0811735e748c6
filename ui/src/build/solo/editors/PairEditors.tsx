import { useBench, useRungSetter } from '../bench'
import { FaultAt, Fields, NumberField, Toggle } from '../../../kit/fields'

/** A sound and a light that wait for an answer at once. */
export function OverlapEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const { overlap } = rung
  const where = `rungs.${place}.overlap`
  const fresh = { share: 0.25, least_gap_s: 0.15, most_gap_s: 0.45 }
  return (
    <Fields>
      <Toggle
        label="some cues overlap"
        on={overlap !== null}
        change={(on) => set('overlap', on ? fresh : null)}
      />
      {overlap && (
        <>
          <NumberField
            label="that follow another"
            unit="%"
            scale={100}
            step={0.05}
            value={overlap.share}
            where={`${where}.share`}
            change={(share) => set('overlap', { ...overlap, share })}
          />
          <NumberField
            label="smallest gap"
            unit="s"
            step={0.05}
            value={overlap.least_gap_s}
            where={`${where}.least_gap_s`}
            change={(least_gap_s) => set('overlap', { ...overlap, least_gap_s })}
          />
          <NumberField
            label="largest gap"
            unit="s"
            step={0.05}
            value={overlap.most_gap_s}
            where={`${where}.most_gap_s`}
            change={(most_gap_s) => set('overlap', { ...overlap, most_gap_s })}
          />
        </>
      )}
      <FaultAt where={where} />
    </Fields>
  )
}

/** Cues in quick succession. */
export function BurstsEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const { bursts } = rung
  const where = `rungs.${place}.bursts`
  const fresh = { share: 1, least: 2, most: 3, inner_s: 0.8, extra_share: 0 }
  return (
    <Fields>
      <Toggle
        label="cues come in bursts"
        on={bursts !== null}
        change={(on) => set('bursts', on ? fresh : null)}
      />
      {bursts && (
        <>
          <NumberField
            label="bursts among all"
            unit="%"
            scale={100}
            step={0.1}
            value={bursts.share}
            where={`${where}.share`}
            change={(share) => set('bursts', { ...bursts, share })}
          />
          <NumberField
            label="at least"
            unit="cues"
            step={1}
            value={bursts.least}
            where={`${where}.least`}
            change={(least) => set('bursts', { ...bursts, least })}
          />
          <NumberField
            label="at most"
            unit="cues"
            step={1}
            value={bursts.most}
            where={`${where}.most`}
            change={(most) => set('bursts', { ...bursts, most })}
          />
          <NumberField
            label="apart"
            unit="s"
            value={bursts.inner_s}
            where={`${where}.inner_s`}
            change={(inner_s) => set('bursts', { ...bursts, inner_s })}
          />
          <NumberField
            label="one more, as a surprise"
            unit="%"
            scale={100}
            step={0.1}
            value={bursts.extra_share}
            where={`${where}.extra_share`}
            change={(extra_share) => set('bursts', { ...bursts, extra_share })}
          />
        </>
      )}
      <FaultAt where={where} />
    </Fields>
  )
}
