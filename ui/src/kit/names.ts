/** Names of values, from the lists in `api/choices`. */

type Named<K extends string> = readonly (readonly [K, string])[]

/** What a value of a choice is called. */
export function nameOf<K extends string>(choice: Named<K>, value: K): string {
  return choice.find(([key]) => key === value)?.[1] ?? value
}

/** What something is called that may have no name: then its own words. */
export function nameFor(names: Readonly<Record<string, string>>, key: string): string {
  return names[key] ?? key.replaceAll('_', ' ')
}
