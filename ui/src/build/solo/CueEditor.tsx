import { FRESH_STEP } from '../../api/fresh'
import type { Cue } from '../../api/types'
import { useBench } from './bench'
import { ChainEditor } from './ChainEditor'
import { withoutCue, without } from '../draft/document'
import { Choice, FaultAt, Fields, NumberField, TextField } from '../../kit/fields'
import { MarkPicker } from './MarkPicker'
import { StimulusEditor } from './StimulusEditor'
import { TechniqueChoice } from '../catalogue/TechniqueChoice'

/** One cue, open: what it is, what it stands for, and every chain it accepts. */
export function CueEditor({ cue, place }: { cue: Cue; place: number }) {
  const { document, set, replace } = useBench()
  const at = ['cues', place] as const
  const where = `cues.${place}`
  return (
    <div className="flex flex-col gap-3 border-l-4 border-ink bg-wash px-3 py-3">
      <Fields>
        <StimulusEditor cue={cue} place={place} />
        <MarkPicker mark={cue.mark} change={(mark) => set([...at, 'mark'], mark)} />
        <NumberField
          label="how often"
          value={cue.weight}
          step={0.5}
          where={`${where}.weight`}
          change={(weight) => set([...at, 'weight'], weight)}
        />
      </Fields>
      <FaultAt where={`${where}.stimulus`} />
      <Fields>
        <TechniqueChoice
          label="it stands for"
          use="attack"
          none="no attack in particular"
          value={cue.attack?.technique ?? null}
          side={cue.attack?.side ?? 'lead'}
          change={(technique) =>
            set(
              [...at, 'attack'],
              technique === null ? null : { technique, side: cue.attack?.side ?? 'lead' },
            )
          }
        />
        {cue.attack && (
          <Choice
            label="from"
            value={cue.attack.side}
            options={[
              ['lead', 'lead side'],
              ['rear', 'rear side'],
            ]}
            change={(side) => set([...at, 'attack', 'side'], side)}
          />
        )}
        <TextField
          label="spoken as"
          value={cue.announce ?? ''}
          placeholder="the answer's name"
          change={(words) => set([...at, 'announce'], words === '' ? null : words)}
        />
      </Fields>
      {cue.asks.map((chain, number) => (
        <ChainEditor
          key={number}
          chain={chain}
          attack={cue.attack?.technique ?? null}
          label={number === 0 ? 'It asks for' : 'or for'}
          path={[...at, 'asks', number]}
          remove={() => set([...at, 'asks'], without(cue.asks, number))}
        />
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <button
          className="btn btn-sm"
          onClick={() =>
            set(
              [...at, 'asks'],
              [...cue.asks, { steps: [{ ...FRESH_STEP, technique: 'straight' }] }],
            )
          }
          disabled={cue.asks.length >= 6}
        >
          {cue.asks.length === 0 ? 'Ask for an answer' : 'Accept another answer'}
        </button>
        {cue.asks.length > 0 ? (
          <button className="btn btn-sm" onClick={() => set([...at, 'asks'], [])}>
            Make it a don’t-react cue
          </button>
        ) : (
          <span className="small">A don’t-react cue: the correct answer is to do nothing.</span>
        )}
        <button className="btn btn-sm ml-auto" onClick={() => replace(withoutCue(document, place))}>
          Remove this cue
        </button>
      </div>
    </div>
  )
}
