import { describe, expect, it } from 'vitest'
import {
  type Body,
  inReach,
  level,
  type Locator,
  named,
  ofTheShop,
} from '../src/places/library/fixture'

const square = (x: number, y: number): [number, number][] => [
  [x, y],
  [x + 10, y],
  [x + 10, y + 10],
  [x, y + 10],
]
const stop = (id: string, side: Locator['side'], x: number, high = 30): Locator => ({
  id,
  side,
  at_mm: [x, -5],
  to_mm: [x, 5],
  diameter_mm: 0,
  low_mm: 20,
  high_mm: high,
})
const body: Body = {
  blocks: [],
  seats: [
    { id: 'a', outline: square(-30, 0), holes: [], high_mm: 20 },
    { id: 'b', outline: square(20, 0), holes: [], high_mm: 20 },
    { id: 'c', outline: square(0, 40), holes: [], high_mm: 8 },
  ],
  locators: [
    stop('west', '-x', -40),
    stop('west-outside', '+x', -44),
    stop('east', '+x', 40),
    stop('low', '-x', -40, 20),
  ],
  threads: [],
}

describe('a fixture that is picked from', () => {
  it('offers as locators what stands over its seats and looks towards them', () => {
    expect(inReach(body, new Set())).toEqual([])
    const ids = inReach(body, new Set(['a', 'b'])).map((each) => each.id)
    expect(ids).toEqual(['west', 'east'])
    // one that was picked stays there to be left out again
    expect(inReach(body, new Set(['a', 'b', 'low'])).map((each) => each.id)).toContain('low')
  })

  it('tells of seats as high as those that are picked', () => {
    expect(level(body, new Set(['a'])).map((each) => each.id)).toEqual(['b'])
    expect(level(body, new Set(['a', 'b']))).toEqual([])
  })

  it('names them as the contacts of a part do', () => {
    expect(named(body, new Set(['b', 'c', 'east']))).toEqual({ b: 'S1', c: 'S2', east: 'L1' })
  })

  it('begins with the threads that the shop has clamps for', () => {
    const thread = (id: string, size_mm: number) => ({
      id,
      size_mm,
      at_mm: [0, 0] as [number, number],
      high_mm: 20,
    })
    const clamp = {
      kind: 'clamps',
      key: 'm6',
      data: { thread_mm: 6 },
      revision: 1,
      changed_at: '',
      used_by: [],
      problem: '',
    }
    const drilled = { ...body, threads: [thread('six', 6), thread('twenty', 20)] }
    expect(ofTheShop(drilled, [clamp])).toEqual(['six'])
    expect(ofTheShop(drilled, [])).toEqual([])
  })
})
