import type { components } from '../../api/schema'

export type Reason = components['schemas']['ComesAfterOut']
export type Found = components['schemas']['OrderOut']

// What speaks for an order, as it is drawn and named.
export const KINDS: { kind: Reason['kind']; label: string; stroke: string; dash?: string }[] = [
  { kind: 'stock', label: 'metal in its way', stroke: 'stroke-mark' },
  { kind: 'place', label: 'the same place', stroke: 'stroke-ink-2', dash: '8 2' },
  { kind: 'holding', label: 'how it is held', stroke: 'stroke-brass' },
  { kind: 'practice', label: 'habit', stroke: 'stroke-ink-3', dash: '2 3' },
  { kind: 'own', label: 'said by the plan', stroke: 'stroke-amber-edge', dash: '10 3' },
  { kind: 'tried', label: 'tried, and worse', stroke: 'stroke-red', dash: '5 3' },
]

export const drawnAs = (each: Reason) =>
  KINDS.find(({ kind }) => kind === each.kind) ?? { label: '', stroke: 'stroke-ink-3', dash: '' }

export const before = (reasons: Reason[], id: string) => reasons.filter((each) => each.then === id)
export const after = (reasons: Reason[], id: string) => reasons.filter((each) => each.first === id)

// All that comes before (or after) an operation, by any number of reasons.
function reached(reasons: Reason[], id: string, way: 'first' | 'then'): Set<string> {
  const from = way === 'first' ? 'then' : 'first'
  const found = new Set<string>()
  const open = [id]
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const each of reasons)
      if (each[from] === at && !found.has(each[way])) {
        found.add(each[way])
        open.push(each[way])
      }
  return found
}

// The first and the last row that an operation can be moved to while all others stay as they are.
export function roomOf(reasons: Reason[], order: string[], id: string): [number, number] {
  const here = order.indexOf(id)
  const sooner = reached(reasons, id, 'first')
  const later = reached(reasons, id, 'then')
  let low = here
  let high = here
  while (low > 0 && !sooner.has(order[low - 1] ?? id)) low -= 1
  while (high < order.length - 1 && !later.has(order[high + 1] ?? id)) high += 1
  return [low, high]
}

// The fewest reasons that lead from one operation to a later one; none where nothing does.
export function chain(reasons: Reason[], first: string, then: string): Reason[] {
  const came = new Map<string, Reason | null>([[first, null]])
  const open = [first]
  for (let at = open.shift(); at !== undefined && at !== then; at = open.shift())
    for (const each of after(reasons, at))
      if (!came.has(each.then)) {
        came.set(each.then, each)
        open.push(each.then)
      }
  const way: Reason[] = []
  for (let last = came.get(then); last; last = came.get(last.first)) way.unshift(last)
  return way
}

// Each reason that is drawn a lane of its own wherever others pass by its rows: short ones inside.
export function lanes(reasons: Reason[], order: string[]): Map<Reason, number> {
  const rows = (each: Reason) => {
    const at = [order.indexOf(each.first), order.indexOf(each.then)]
    return [Math.min(...at), Math.max(...at)] as const
  }
  const long = (each: Reason) => rows(each)[1] - rows(each)[0]
  const found = new Map<Reason, number>()
  for (const each of [...reasons].sort((a, b) => long(a) - long(b))) {
    const [low, high] = rows(each)
    const taken = [...found]
      .filter(([other]) => rows(other)[0] < high && rows(other)[1] > low)
      .map(([, lane]) => lane)
    let lane = 0
    while (taken.includes(lane)) lane += 1
    found.set(each, lane)
  }
  return found
}
