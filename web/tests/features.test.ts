import { describe, expect, it } from 'vitest'
import { type Feature, rowsOf } from '../src/places/part/feature'

const hole = (id: string, x: number, more: Partial<Feature> = {}): Feature => ({
  id,
  kind: 'hole',
  diameter_mm: 8,
  length_mm: 20,
  through: true,
  opens: ['+z', '-z'],
  point: [x, 0, 0],
  ...more,
})

describe('features as they are listed', () => {
  it('puts alike ones in a row, with every place', () => {
    const rows = rowsOf([hole('a', 1), hole('b', 2), hole('c', 3, { diameter_mm: 9 })], [])
    expect(rows.map((row) => row.points.length)).toEqual([2, 1])
  })
  it('keeps what the blank has already apart', () => {
    const rows = rowsOf([hole('a', 1), hole('b', 2)], ['b'])
    expect(rows.map((row) => row.of.id)).toEqual(['a', 'b'])
  })
  it('names other ways into a pocket as its sides', () => {
    const step: Feature = { id: 's', kind: 'pocket', opens: '+z', closed: false, way_into: '' }
    const side: Feature = { id: 't', kind: 'pocket', opens: '+y', closed: false, way_into: 's' }
    expect(rowsOf([side, step], []).map((row) => row.sides)).toEqual([['+z', '+y']])
  })
  it('shows a window from both sides', () => {
    const window: Feature = { id: 'w', kind: 'pocket', opens: '-y', through: true }
    expect(rowsOf([window], [])[0]!.sides).toEqual(['-y', '+y'])
  })
})
