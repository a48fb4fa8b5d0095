import type { PlannedStation } from '../../api/client'

export type At = NonNullable<PlannedStation['at']>
export type Point = readonly [number, number]

const plus = (at: readonly number[] | undefined, by: Point): [number, number] => [
  round((at?.[0] ?? 0) + by[0]),
  round((at?.[1] ?? 0) + by[1]),
]
const round = (value: number) => Math.round(value * 1000) / 1000

// A row or a grid is carried as a whole; of places each for itself only the one that was taken.
export function carried(at: At | null | undefined, position: number, by: Point): At {
  if (!at) return { kind: 'one', at_mm: plus(undefined, by) }
  if (at.kind !== 'spots') return { ...at, at_mm: plus(at.at_mm, by) }
  return {
    ...at,
    at_mm: at.at_mm.map((each, k) => (k === position ? plus(each, by) : each)) as typeof at.at_mm,
  }
}

// The same places, each for itself.
export const apart = (spots: Point[]): At => ({
  kind: 'spots',
  at_mm: spots.map(([x, y]) => [x, y]) as (At & { kind: 'spots' })['at_mm'],
})

// How far an arrow key carries, in the units that are shown.
const ARROWS: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
}
export function step(key: string, far: boolean, inch: boolean): Point | null {
  const way = ARROWS[key]
  if (!way) return null
  const by = (far ? 10 : 1) * (inch ? 1.27 : 1)
  return [way[0] * by, way[1] * by]
}

// To the nearest whole mm, or twentieth of an inch.
export const snapped = (value: number, inch: boolean) => {
  const grid = inch ? 1.27 : 1
  return round(Math.round(value / grid) * grid)
}
