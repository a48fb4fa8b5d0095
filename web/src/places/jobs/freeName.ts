const LONGEST = 54 // with a number behind it no longer than a plan's name may be

// A name that none of the job's plans has.
export function freeName(wanted: string, taken: string[]): string {
  const name = wanted.slice(0, LONGEST)
  const used = new Set(taken.map((each) => each.toLowerCase()))
  if (!used.has(name.toLowerCase())) return name
  let k = 2
  while (used.has(`${name} ${k}`.toLowerCase())) k += 1
  return `${name} ${k}`
}
