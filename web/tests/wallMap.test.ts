import { describe, expect, it } from 'vitest'
import { carriedLines, shade, sizeOf } from '../src/places/hold/wallMap'
import type { Wall } from '../src/places/hold/useThin'

const wall = (cells: [number, number][], carried: [number, number, number][]) =>
  ({ cells: cells.map(([i, j]) => [i, j, 2]), carried }) as unknown as Wall

const BAR = wall(
  [0, 1, 2].flatMap((i) => [0, 1].map((j): [number, number] => [i, j])),
  [
    [0, 0, 0],
    [0, 1, 0],
    [2, 0, 1],
    [2, 1, 1],
  ],
)

describe('the map of a wall', () => {
  it('is as large as its cells', () => expect(sizeOf(BAR)).toEqual([3, 2]))

  it('draws a carried end as one line, from its upper left corner', () => {
    expect(carriedLines(BAR)).toEqual([
      [0, 0, 0, 2],
      [3, 0, 3, 2],
    ])
  })

  it('draws what it stands on below, and a gap as two lines', () => {
    const on = wall(
      [
        [0, 0],
        [1, 0],
        [2, 0],
      ],
      [
        [0, 0, 2],
        [2, 0, 2],
      ],
    )
    expect(carriedLines(on)).toEqual([
      [0, 1, 1, 1],
      [2, 1, 3, 1],
    ])
    expect(carriedLines(wall([[0, 0]], [[0, 0, 3]]))).toEqual([[0, 0, 1, 0]])
  })

  it('is darkest where it is thinnest, and even where all is alike', () => {
    expect(shade(1, 1, 3)).toBeGreaterThan(shade(2, 1, 3))
    expect(shade(2, 1, 3)).toBeGreaterThan(shade(3, 1, 3))
    expect(shade(2, 2, 2)).toBe(shade(2.01, 2, 2.02))
  })
})
