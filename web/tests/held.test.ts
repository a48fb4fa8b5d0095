import { describe, expect, it } from 'vitest'
import { labels, marks, petals, pressedAlong, scaleOf } from '../src/places/hold/seen'
import type { Touch } from '../src/places/hold/useHold'

const touch = (body: string, at: number[], normal: number[], presses_n = 0): Touch => ({
  body,
  at,
  normal,
  friction: 0.18,
  clamps: body.startsWith('moving'),
  presses_n,
})
const VISE = [
  touch('fixed jaw', [-30, 35, 1], [0, -1, 0], 100),
  touch('fixed jaw', [-30, 35, 5], [0, -1, 0], 50),
  touch('moving jaw', [-30, -35, 1], [0, 1, 0], 150),
  touch('parallels', [-30, 20, 0], [0, 0, 1], 0),
]

describe('what holds a part', () => {
  it('is marked once where points lie behind each other, with what they carry together', () => {
    const above = marks(VISE, 0, 1)
    expect(above.map((each) => [each.touch.body, each.touch.presses_n])).toEqual([
      ['fixed jaw', 150],
      ['moving jaw', 150],
      ['parallels', 0],
    ])
    expect(above[0]!.by).toEqual([0, -1])
    expect(above[2]!.by).toEqual([0, 0]) // it presses to the eye
    expect(marks(VISE, 1, 2)).toHaveLength(4)
  })
  it('is labelled once where marks lie close, and not where nothing is carried', () => {
    const told = labels(marks(VISE, 1, 2), ([x, y]) => [x, -y], 20)
    expect(told.map((each) => each.sum)).toEqual([150, 150])
    expect(told[0]!.at).toEqual([35, -5])
  })
  it('is seen from the end across what closes', () => {
    expect(pressedAlong(VISE)).toBe(1)
    expect(pressedAlong([touch('moving jaw', [0, 0, 0], [-1, 0, 0])])).toBe(0)
  })
})

describe('the rose', () => {
  it('goes out as far as each factor, at most to its edge', () => {
    const spots = petals([2, 4, 8, 16], [1, 0, 0], [0, 1, 0], 8, 80)
    expect(spots.map(([x, y]) => [Math.round(x), Math.round(y)])).toEqual([
      [20, 0],
      [0, 40],
      [-80, 0],
      [-0, -80],
    ])
  })
  it('has room over the least and over what is asked', () => {
    expect(scaleOf([2.7, 6], 2)).toBe(5)
    expect(scaleOf([1, 1], 2)).toBe(5)
    expect(scaleOf([40, 60], 2)).toBe(100)
    expect(scaleOf([100, 100], 2)).toBe(100)
  })
})
