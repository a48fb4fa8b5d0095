// An id for what an edit makes: its first letter says what, the rest is chance.
export function freshId(letter: string): string {
  return (
    letter +
    crypto.getRandomValues(new Uint32Array(2)).reduce((text, each) => text + each.toString(36), '')
  )
}
