import type { Load } from './useLoad'

// What positions stand on, as it is drawn: its middle, its size (mm), and which face of a tombstone it is.
export type Ground = { x: number; wide: number; deep: number; face: number; words: string }

const APART = 1.12 // from face to face beside each other

export function grounds(load: Load): Ground[] {
  const on = load.tombstone
  if (!on) return [{ x: 0, wide: load.table[0]!, deep: load.table[1]!, face: 0, words: '' }]
  const first = (on.faces.length - 1) / 2
  return on.faces.map((turn, k) => ({
    x: (k - first) * on.wide_mm * APART,
    wide: on.wide_mm,
    deep: on.tall_mm,
    face: k + 1,
    words: `face ${k + 1}, ${turn}°`,
  }))
}

// Half of what a drawing shows of them (mm), with room round it; an axis that goes farther than a table is seen too.
export function halves(load: Load, room: number): [number, number] {
  const all = grounds(load)
  const [last, first] = [all.at(-1)!, all[0]!]
  const reach = load.tombstone ? [0, 0] : load.travel
  const arms = load.arms.flatMap((each) => each.rings.flat())
  const out = (k: number) => Math.max(0, ...arms.map((at) => Math.abs(at[k]!)))
  return [
    Math.max(last.x + last.wide / 2, reach[0]!, out(0)) + room,
    Math.max(first.deep / 2, reach[1]!, out(1)) + (load.tombstone ? 1.7 : 1) * room,
  ]
}
