import { COLOURS, SHAPES } from '../../api/choices'
import type { Mark } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { Choice } from '../../kit/fields'

/** The one sign a cue has everywhere. */
export function MarkPicker({ mark, change }: { mark: Mark; change: (mark: Mark) => void }) {
  return (
    <span className="inline-flex items-end gap-2">
      <Choice
        label="shape"
        value={mark.shape}
        options={SHAPES.map((shape) => [shape, shape] as const)}
        change={(shape) => change({ ...mark, shape })}
      />
      <Choice
        label="colour"
        value={mark.colour}
        options={COLOURS.map((colour) => [colour, colour] as const)}
        change={(colour) => change({ ...mark, colour })}
      />
      <span className="pb-2">
        <CueMark mark={mark} size={22} />
      </span>
    </span>
  )
}
