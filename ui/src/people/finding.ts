/** From so many students on, a list of them has a field to find one. */
export const WORTH_FINDING = 15

/** Whether a name has every word of `asked` in it; case and accents aside. */
export function isCalled(name: string, asked: string): boolean {
  const known = plain(name)
  return plain(asked)
    .split(/\s+/)
    .every((word) => known.includes(word))
}

function plain(words: string): string {
  return words
    .normalize('NFD')
    .replace(/\p{Mark}/gu, '')
    .toLowerCase()
}
