export type Side = '+x' | '-x' | '+y' | '-y'
export type Dowel = { id: string; side: Side; at_mm: number; high_mm: number }
export type Clamp = {
  id: string
  clamp: string
  side: Side
  at_mm: number
  over_mm: number
  torque_nm: number
  fixed_in: string
}
export type Clamped = {
  base: string
  dowels?: Dowel[]
  clamps?: Clamp[]
  vise?: { vise: string; grip_depth_mm: number; torque_nm: number } | null
}
type Item = { key: string; data: Record<string, unknown> }

const SIDES: Side[] = ['+y', '-x', '-y', '+x']

// What can be carried along a side: which list it is in, at which place, and its name in the drawing.
export type Slidable = {
  list: 'clamps' | 'dowels'
  place: number
  name: string
  side: Side
  at_mm: number
}
export const slidable = (held: Clamped): Slidable[] =>
  (['dowels', 'clamps'] as const).flatMap((list) =>
    (held[list] ?? []).map((each, place) => ({
      list,
      place,
      name: `${list.slice(0, -1)} ${place + 1}`,
      side: each.side,
      at_mm: each.at_mm,
    })),
  )

// The fields of the holding with one of them elsewhere.
export const carriedTo = (held: Clamped, row: Slidable, at_mm: number) => ({
  [`holding.${row.list}`]: (held[row.list] ?? []).map((each, place) =>
    place === row.place ? { ...each, at_mm } : each,
  ),
})

// The first name that none of a holding's dowels and clamps has.
export function freshOf(letter: string, held: Clamped): string {
  const taken = new Set([...(held.dowels ?? []), ...(held.clamps ?? [])].map((each) => each.id))
  for (let k = 1; ; k++) if (!taken.has(`${letter}${k}`)) return `${letter}${k}`
}

// At the side that has the fewest, the back first.
function emptiest(taken: { side: Side }[]): Side {
  const many = (side: Side) => taken.filter((each) => each.side === side).length
  return SIDES.reduce((best, side) => (many(side) < many(best) ? side : best))
}

export const usualDowel = (id: string, others: Dowel[]): Dowel => ({
  id,
  side: emptiest(others),
  at_mm: 0,
  high_mm: others[0]?.high_mm ?? 8,
})

// Like the last one that needs no hole, at another side, else of the first kind the shop has that needs none.
export function usualClamp(id: string, others: Clamp[], known: Item[]): Clamp {
  const side = emptiest(others)
  const free = known.filter((each) => each.data.kind !== 'screw')
  const last = others.filter((each) => free.some((item) => item.key === each.clamp)).at(-1)
  if (last) return { ...last, id, side, at_mm: 0 }
  const item = (free[0] ?? known[0])!
  const pad = Number(item.data.pad_mm ?? 0)
  const torque = Number(item.data.max_torque_nm) * 0.8
  return {
    id,
    clamp: item.key,
    side,
    at_mm: 0,
    over_mm: pad ? pad + 2 : 0,
    torque_nm: Math.round(10 * torque) / 10,
    fixed_in: 'base',
  }
}

export function moved<T>(rows: T[], from: number, to: number): T[] {
  const rest = rows.filter((_, k) => k !== from)
  return [...rest.slice(0, to), rows[from]!, ...rest.slice(to)]
}

// The change from the clamps that are on to others; nothing where they are the same.
export function changeTo(now: string[], next: string[]) {
  const on = next.filter((id) => !now.includes(id))
  const off = now.filter((id) => !next.includes(id))
  return on.length || off.length ? { on, off } : null
}

export type Step = { id: string; on: string[] } // an operation, and the clamps that are on in it

// The change after each operation where a clamp is on from one to another of them, those that differ from before.
export function whenOn(steps: Step[], clamp: string, from: number, until: number) {
  const then = steps.map(({ on }, k) => [
    ...on.filter((id) => id !== clamp),
    ...(k >= from && k <= until ? [clamp] : []),
  ])
  return steps.slice(0, -1).flatMap(({ id, on }, k) => {
    const next = changeTo(then[k]!, then[k + 1]!)
    const before = changeTo(on, steps[k + 1]!.on)
    return same(next, before) ? [] : [{ id, change: next }]
  })
}

type Change = ReturnType<typeof changeTo>
const same = (a: Change, b: Change) =>
  [...(a?.on ?? [])].sort().join() === [...(b?.on ?? [])].sort().join() &&
  [...(a?.off ?? [])].sort().join() === [...(b?.off ?? [])].sort().join()
