/** Whether `text` holds every word of `asked`, or a part of one; case and accents aside. */
export function holds(text: string, asked: string): boolean {
  const known = plain(text)
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

/** Whether two names are one to the eye: case, accents and spaces aside. */
export function isTwin(one: string, other: string): boolean {
  return other.trim() !== '' && folded(one) === folded(other)
}

function folded(name: string): string {
  return name.normalize('NFKD').replace(/\p{M}/gu, '').replace(/\s+/g, ' ').trim().toLowerCase()
}
