import { describe, expect, it } from 'vitest'
import { apart, type At, carried, snapped, step } from '../src/places/load/where'

const SPOTS = {
  kind: 'spots',
  at_mm: [
    [0, 0],
    [150, 20],
  ],
} as unknown as At

describe('positions of a load', () => {
  it('are carried as a whole in a row or a grid, and where nobody has placed them', () => {
    const row = { kind: 'row', at_mm: [10, 0], along: 'x', count: 3, pitch_mm: 140 } as At
    expect(carried(row, 2, [5, -2.5])).toEqual({ ...row, at_mm: [15, -2.5] })
    expect(carried(null, 0, [1, 2])).toEqual({ kind: 'one', at_mm: [1, 2] })
  })
  it('are carried one by one where each stands by itself', () => {
    expect(carried(SPOTS, 1, [-10, 0])).toEqual({
      kind: 'spots',
      at_mm: [
        [0, 0],
        [140, 20],
      ],
    })
    expect(
      apart([
        [0, 0],
        [150, 20],
      ]),
    ).toEqual(SPOTS)
  })
  it('go a step for an arrow key, ten with Shift, in the units that are shown', () => {
    expect(step('ArrowLeft', false, false)).toEqual([-1, 0])
    expect(step('ArrowUp', true, false)).toEqual([0, 10])
    expect(step('ArrowDown', false, true)).toEqual([0, -1.27])
    expect(step('Enter', false, false)).toBeNull()
  })
  it('come to rest on whole mm, or twentieths of an inch', () => {
    expect([snapped(12.4, false), snapped(-0.6, false)]).toEqual([12, -1])
    expect(snapped(12.4, true)).toBe(12.7)
  })
})
