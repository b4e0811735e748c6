import { useSearchParams } from 'react-router'

/** Settings of a list that stand in its address, so that they are there on coming back. */
export function useAddress<T extends Record<string, string>>(usual: T): [T, (next: T) => void] {
  const [search, setSearch] = useSearchParams()
  const values = Object.fromEntries(
    Object.entries(usual).map(([key, value]) => [key, search.get(key) ?? value]),
  ) as T
  const set = (next: T) => {
    const kept = new URLSearchParams(search)
    for (const [key, value] of Object.entries(next)) {
      if (value === usual[key]) kept.delete(key)
      else kept.set(key, value)
    }
    setSearch(kept, { replace: true })
  }
  return [values, set]
}
