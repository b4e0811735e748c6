import type { HomeView } from '../api/types'
import type { Keep } from './keep'
import type { Session } from './practiceDay'
import type { Answering } from './useAnswering'

/** A practice that is on, how it is answered, and what it was begun with: that stays until its end. */
export type Going = { session: Session; answering: Answering; view: HomeView; keep: Keep }
