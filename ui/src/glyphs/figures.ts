/** Plain figures for cues that are pictures, drawn in one colour on nothing, 100 × 100. */
import type { Cue } from '../api/types'

export type PictureName = Extract<Cue['stimulus'], { kind: 'picture' }>['picture']

const HEAD = 'M50 8a10 10 0 1 1-.01 0Z'
const BODY = 'M50 30V62'
const LEGS = 'M50 62L38 94M50 62L62 94'
const ARMS_DOWN = 'M50 36L36 58M50 36L64 58'

type Parts = { lines: string; filled?: string }

const PICTURES: Record<PictureName, Parts> = {
  head_target: { lines: `${BODY}${ARMS_DOWN}${LEGS}`, filled: 'M50 2a18 18 0 1 1-.01 0Z' },
  body_target: { lines: `${HEAD}${LEGS}${ARMS_DOWN}`, filled: 'M36 30H64V64H36Z' },
  leg_target: {
    lines: `${HEAD}${BODY}${ARMS_DOWN}M50 62L62 94`,
    filled: 'M44 60L54 66L42 97L28 93Z',
  },
  swing: { lines: `${HEAD}${BODY}${LEGS}M50 36L64 50M50 36Q18 30 12 52M12 52L24 50M12 52L10 40` },
  fists: {
    lines: `${HEAD}${BODY}${LEGS}M50 36L34 46L36 28M50 36L66 46L64 28`,
    filled: 'M30 18h12v12h-12ZM58 18h12v12h-12Z',
  },
  raised_hands: { lines: `${HEAD}${BODY}${LEGS}M50 36L28 30L20 8M50 36L72 30L80 8` },
  into_stance: {
    lines: `${HEAD}M50 30L54 60M50 36L36 44L42 32M50 36L66 44L62 32M54 60L28 94M54 60L80 94M8 86H22M8 86L14 80M8 86L14 92`,
  },
  open_hands: {
    lines: `${HEAD}${BODY}${LEGS}M50 36L26 50M50 36L74 50M26 50L16 46M26 50L16 52M26 50L20 58M74 50L84 46M74 50L84 52M74 50L80 58`,
  },
  turned_away: {
    lines: `${BODY}${ARMS_DOWN}${LEGS}M78 40H96M96 40L88 32M96 40L88 48`,
    filled: HEAD,
  },
}

const TURN = { up: 0, right: 90, down: 180, left: 270 }
const ARROW = 'M50 6L92 50H66V94H34V50H8Z'

/** SVG of a picture of a person, in a colour. */
export function pictureSvg(name: PictureName, hex: string): string {
  const { lines, filled } = PICTURES[name]
  const solid = filled ? `<path d="${filled}" fill="${hex}"/>` : ''
  return `<g fill="none" stroke="${hex}" stroke-width="6.5" stroke-linecap="round" stroke-linejoin="round"><path d="${lines}"/></g>${solid}`
}

/** SVG of an arrow that points somewhere on the screen. */
export function arrowSvg(towards: keyof typeof TURN, hex: string): string {
  return `<path d="${ARROW}" fill="${hex}" transform="rotate(${TURN[towards]} 50 50)"/>`
}
