import type { Item, Task } from '../../api/client'
import type { Data } from './schema'

type Spot = [number, number]
type Outlined = { outline: Spot[]; holes: Spot[][] }
export type Block = Outlined & { low_mm: number; high_mm: number }
export type Seat = Outlined & { id: string; high_mm: number }
export type Locator = {
  id: string
  side: '-x' | '+x' | '-y' | '+y'
  at_mm: Spot
  to_mm: Spot
  diameter_mm: number
  low_mm: number
  high_mm: number
}
export type Thread = { id: string; at_mm: Spot; size_mm: number; high_mm: number }
// What a file has of a fixture, or what a record keeps of that.
export type Body = { blocks: Block[]; seats: Seat[]; locators: Locator[]; threads: Thread[] }
export type Found = Body & { file: string; size: [number, number, number] }

export const SIDES: Record<Locator['side'], string> = {
  '-x': 'left side',
  '+x': 'right side',
  '-y': 'front side',
  '+y': 'back side',
}
export const foundIn = (task: Task) => task.result as unknown as Found
export const bodyOf = (data: Data): Body => ({
  blocks: (data.blocks as Block[] | undefined) ?? [],
  seats: (data.seats as Seat[] | undefined) ?? [],
  locators: (data.locators as Locator[] | undefined) ?? [],
  threads: (data.threads as Thread[] | undefined) ?? [],
})

// Faces a part can lie against once it lies on what is picked: those that stand over that and look
// towards its middle.
export const inReach = (body: Body, picked: Set<string>): Locator[] => {
  const seats = body.seats.filter((each) => picked.has(each.id))
  if (seats.length === 0) return []
  const high = Math.max(...seats.map((each) => each.high_mm))
  const spots = seats.flatMap((each) => each.outline)
  const middle = [0, 1].map((k) => {
    const along = spots.map((spot) => spot[k]!)
    return (Math.min(...along) + Math.max(...along)) / 2
  })
  const looks = (each: Locator) => {
    const k = each.side[1] === 'x' ? 0 : 1
    return (middle[k]! - each.at_mm[k]) * (each.side[0] === '-' ? 1 : -1) > 0
  }
  return body.locators.filter(
    (each) => picked.has(each.id) || (each.high_mm > high + 0.5 && looks(each)),
  )
}

// Seats that are as high as one that is picked: a part lies on them too.
export const level = (body: Body, picked: Set<string>): Seat[] => {
  const heights = new Set(
    body.seats.filter((each) => picked.has(each.id)).map((each) => each.high_mm),
  )
  return body.seats.filter((each) => !picked.has(each.id) && heights.has(each.high_mm))
}

// What is kept of a file: the whole body, and what was picked of it.
export const record = (found: Found, picked: Set<string>, said: Data): Data => ({
  ...said,
  kind: 'fixture',
  file: found.file,
  blocks: found.blocks,
  seats: found.seats.filter((each) => picked.has(each.id)),
  locators: found.locators.filter((each) => picked.has(each.id)),
  threads: found.threads.filter((each) => picked.has(each.id)),
})

export const bounds = (body: Body) => {
  const spots = body.blocks.flatMap((each) => each.outline)
  const [xs, ys] = [spots.map(([x]) => x), spots.map(([, y]) => y)]
  return {
    west: Math.min(...xs),
    east: Math.max(...xs),
    south: Math.min(...ys),
    north: Math.max(...ys),
    high: Math.max(...body.blocks.map((each) => each.high_mm)),
  }
}

// What picked seats and locators are called, as the contacts of a part there name them.
export const named = (body: Body, picked: Set<string>): Record<string, string> =>
  Object.fromEntries([
    ...body.seats.filter((each) => picked.has(each.id)).map((each, k) => [each.id, `S${k + 1}`]),
    ...body.locators.filter((each) => picked.has(each.id)).map((each, k) => [each.id, `L${k + 1}`]),
  ])

// Threads that the shop has clamps for: those are picked to begin with.
export const ofTheShop = (body: Body, items: Item[]): string[] => {
  const sizes = new Set(
    items.filter((each) => each.kind === 'clamps').map((each) => Number(each.data.thread_mm)),
  )
  return body.threads.filter((each) => sizes.has(each.size_mm)).map((each) => each.id)
}
