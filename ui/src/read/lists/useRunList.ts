import { useInfiniteQuery } from '@tanstack/react-query'

import { pairsQuery, runsQuery } from '../../api/runLists'
import { askedOf, type RunFilter } from './runFilter'

/** The runs that a filter asks for, alone and together, as far as they have been asked for. */
export function useRunList(filter: RunFilter, archived = false) {
  const asked = askedOf(filter, archived)
  const alone = useInfiniteQuery(runsQuery(asked))
  const together = useInfiniteQuery(pairsQuery(asked))
  const lists = [alone, together]
  return {
    asked,
    error: alone.error ?? together.error,
    runs: alone.data?.pages.flat(),
    pairs: together.data?.pages.flat(),
    /** Whether there are older ones, and how they are had. */
    more: lists.some((list) => list.hasNextPage),
    older: () => {
      for (const list of lists) if (list.hasNextPage) void list.fetchNextPage()
    },
    busy: lists.some((list) => list.isFetchingNextPage),
  }
}
