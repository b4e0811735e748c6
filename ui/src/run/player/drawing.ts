/** What a seen cue looks like on the floor, and where. */
import type { Cue, RunView } from '../../api/types'
import { arrowSvg, pictureSvg } from '../../glyphs/figures'
import { markPath } from '../../glyphs/shapes'

type Half = 'left' | 'right'
type Stance = RunView['plan']['stance']

/** key: the same for the same picture. url: of a picture of the coach's own. */
export type Drawing = { key: string; body: string; url: string | null; area: string }

/** The drawing of a seen cue for a stance; null for one that is heard. */
export function drawingOf(view: RunView, cue: Cue, stance: Stance): Drawing | null {
  const { stimulus, mark } = cue
  const hex = view.colours[mark.colour] ?? '#fff'
  const lead = view.lead_side[stance] ?? 'left'
  switch (stimulus.kind) {
    case 'light':
      return {
        key: `${mark.shape} ${mark.colour}`,
        body: `<path fill="${hex}" fill-rule="evenodd" d="${markPath(mark.shape, 50, 50, 46)}"/>`,
        url: null,
        area: areaOf(stimulus.place, lead),
      }
    case 'arrow': {
      const way = stimulus.direction
      const towards = way === 'lead' || way === 'rear' ? half(way, lead) : way
      const key = `arrow ${towards} ${mark.colour}`
      return { key, body: arrowSvg(towards, hex), url: null, area: 'middle' }
    }
    case 'picture': {
      const own = view.pictures[cue.key] ?? null
      const key = own ?? `picture ${stimulus.picture} ${mark.colour}`
      const body = pictureSvg(stimulus.picture, hex)
      return { key, body, url: own, area: areaOf(stimulus.place, lead) }
    }
    default:
      return null
  }
}

function half(side: 'lead' | 'rear', lead: Half): Half {
  if (side === 'lead') return lead
  return lead === 'left' ? 'right' : 'left'
}

/** A place of the drill language as a place on the screen, for example "left-high". */
function areaOf(place: string, lead: Half): string {
  return place
    .split('_')
    .map((part) => (part === 'lead' || part === 'rear' ? half(part, lead) : part))
    .join('-')
}
