/** Names as they are called in a hall: the first, and as much more as tells two of them apart. */
export function shortNames(names: readonly string[]): Map<string, string> {
  const parts = names.map((name) => ({ name, words: name.trim().split(/\s+/) }))
  const said = ({ words }: (typeof parts)[number], letters: number) => {
    const last = words.length > 1 ? (words.at(-1) ?? '') : ''
    const more = Array.from(last).slice(0, letters).join('')
    return more ? `${words[0] ?? ''} ${more}${more === last ? '' : '.'}` : (words[0] ?? '')
  }
  const apart = (part: (typeof parts)[number]): string => {
    const others = parts.filter((one) => one.name !== part.name)
    for (let letters = 0; letters <= 3; letters += 1) {
      const mine = said(part, letters)
      if (others.every((one) => said(one, letters) !== mine)) return mine
    }
    return part.name
  }
  return new Map(parts.map((part) => [part.name, apart(part)]))
}
