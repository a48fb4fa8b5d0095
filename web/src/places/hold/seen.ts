import type { Touch } from './useHold'

export type At = [number, number]
export type Mark = {
  at: At // of the point, in the plane that is looked at
  by: At // the way it presses, of length 1, or none where it presses to the eye
  touch: Touch
}

const SAME_MM = 0.05
const FLAT = 0.2 // of a normal's length: less of it is not seen

// The points as they look from along an axis, those behind each other once, with what they carry together.
export function marks(touches: Touch[], across: number, up: number): Mark[] {
  const found: Mark[] = []
  for (const touch of touches) {
    const at: At = [touch.at[across]!, touch.at[up]!]
    const [a, b] = [touch.normal[across]!, touch.normal[up]!]
    const long = Math.hypot(a, b)
    const by: At = long > FLAT ? [a / long, b / long] : [0, 0]
    const same = found.find(
      (each) =>
        each.touch.body === touch.body &&
        Math.hypot(each.at[0] - at[0], each.at[1] - at[1]) < SAME_MM &&
        Math.hypot(each.by[0] - by[0], each.by[1] - by[1]) < FLAT,
    )
    if (same) same.touch = { ...same.touch, presses_n: same.touch.presses_n + touch.presses_n }
    else found.push({ at, by, touch })
  }
  return found
}

// The axis that what clamps presses along most, of X and Y: it is drawn across the end view.
export function pressedAlong(touches: Touch[]): 0 | 1 {
  const sum = [0, 1].map((k) =>
    touches.filter((each) => each.clamps).reduce((all, each) => all + Math.abs(each.normal[k]!), 0),
  )
  return sum[0]! > sum[1]! ? 0 : 1
}

// Spots of a rose round the middle, how far out each factor is; those over the scale end at its edge.
export function petals(
  factors: number[],
  along: number[],
  aside: number[],
  scale: number,
  radius: number,
): At[] {
  return factors.map((factor, k) => {
    const turn = (2 * Math.PI * k) / factors.length
    const way = [0, 1].map((j) => Math.cos(turn) * along[j]! + Math.sin(turn) * aside[j]!)
    const far = (Math.min(factor, scale) / scale) * radius
    return [far * way[0]!, far * way[1]!]
  })
}

// A round end of the scale: some more than the most that is worth telling apart.
export function scaleOf(factors: number[], asked: number): number {
  const least = Math.min(...factors)
  const wanted = Math.max(2.5 * asked, 1.6 * least)
  return [2, 4, 5, 6, 8, 10, 15, 20, 30, 50, 100].find((each) => each >= wanted) ?? 100
}

export type Label = { at: At; by: At; sum: number }

// One label for what presses the same way so near that two would lie on each other.
export function labels(of: Mark[], place: (at: At) => At, near: number): Label[] {
  const found: (Label & { spots: At[] })[] = []
  for (const { at, by, touch } of of) {
    if (touch.presses_n <= 0 || (!by[0] && !by[1])) continue
    const spot = place(at)
    const same = found.find(
      (each) =>
        Math.hypot(each.by[0] - by[0], each.by[1] - by[1]) < FLAT &&
        each.spots.some((one) => Math.hypot(one[0] - spot[0], one[1] - spot[1]) < near),
    )
    if (same) {
      same.spots.push(spot)
      same.sum += touch.presses_n
      same.at = [Math.min(same.at[0], spot[0]), Math.min(same.at[1], spot[1])]
    } else found.push({ at: spot, by, sum: touch.presses_n, spots: [spot] })
  }
  return found.map(({ at, by, sum }) => ({ at, by, sum }))
}
