/** What every input gives: a time, where it came from, and which control. */
import type { Event, SourceName } from '../../api/types'

type InputEvent = Extract<Event, { type?: 'input' }>
export type Given = Pick<InputEvent, 't_ms' | 'device' | 'control' | 'edge'> &
  Partial<Pick<InputEvent, 'own_ms' | 'serial' | 'level_db'>>

/** What an input may tell besides answers. */
export type Trouble = {
  /** Which input, and a sentence for the coach. */
  from: SourceName
  message: string
  /** Whether the round has to stand still until it is mended. */
  stops: boolean
}

/** Where an input tells what it has. */
export type Ears = {
  given: (answer: Given) => void
  trouble: (trouble: Trouble) => void
  /** It works again. */
  mended: (from: SourceName) => void
}

export const HOME = 'home'
/** Controls of what gives only a time. */
export const STRIKE = 'strike'
export const CLICK = 'click'
export const TAP = 'tap'
