import type { Evaluation, SetupResult } from '../api/client'

export type Share = { kind: 'cut' | 'link' | 'move'; from: number; to: number }
const KINDS: Record<Share['kind'], string[]> = {
  cut: ['cut'],
  link: ['link'],
  move: ['rapid', 'settle', 'wait', 'index'],
}

// What an operation's own time goes to, as shares of its block: fed through the work, past it, moves and waits.
export function sharesOf(setup: SetupResult, operation: string): Share[] {
  const seconds = (kinds: string[]) =>
    setup.events
      .filter((each) => each.operation === operation && kinds.includes(each.kind))
      .reduce((sum, each) => sum + each.seconds, 0)
  const parts = Object.entries(KINDS).map(([kind, of]) => ({
    kind: kind as Share['kind'],
    seconds: seconds(of),
  }))
  const whole = parts.reduce((sum, each) => sum + each.seconds, 0)
  let at = 0
  return parts
    .filter((each) => each.seconds > 0)
    .map(({ kind, seconds }) => {
      const from = at
      at += seconds / whole
      return { kind, from, to: at }
    })
}

// Putting one part in and taking it out at all stations of a setup, by hand (s).
export function putIn(evaluation: Evaluation, setup: SetupResult): number {
  const value = (id: string) => Number(evaluation.figures[`${id}.put_in`]?.[0] ?? 0)
  return setup.stations.length === 1
    ? value(setup.id)
    : setup.stations.reduce((sum, each) => sum + value(each.id), 0)
}
