import { describe, expect, it } from 'vitest'
import {
  carriedTo,
  changeTo,
  type Clamp,
  freshOf,
  moved,
  slidable,
  usualClamp,
  usualDowel,
  whenOn,
} from '../src/places/hold/clamps'
import { shortly } from '../src/places/hold/Motions'

const strap: Clamp = {
  id: 'c1',
  clamp: 'strap-m6',
  side: '-x',
  at_mm: 12,
  over_mm: 10,
  torque_nm: 8,
  fixed_in: 'base',
}

describe('clamps of a holding', () => {
  it('get names that nothing else has', () => {
    const dowel = { id: 'c2', side: '+y' as const, at_mm: 0, high_mm: 8 }
    expect(freshOf('c', { base: 'b', clamps: [strap], dowels: [dowel] })).toBe('c3')
    expect(freshOf('d', { base: 'b' })).toBe('d1')
  })

  it('are like the last one, in the middle of the side with the fewest', () => {
    const known = [
      { key: 'screw-m6', data: { kind: 'screw', max_torque_nm: 10 } },
      { key: 'strap-m6', data: { kind: 'strap', pad_mm: 8, max_torque_nm: 10 } },
    ]
    const screw = { ...strap, id: 'c9', clamp: 'screw-m6' }
    const next = usualClamp('c2', [strap, screw], known)
    expect(next).toEqual({ ...strap, id: 'c2', side: '+y', at_mm: 0 })
    const first = usualClamp('c1', [screw], known)
    expect([first.clamp, first.over_mm, first.torque_nm]).toEqual(['strap-m6', 10, 8])
    const edge = { key: 'edge', data: { kind: 'side', max_torque_nm: 10 } }
    expect(usualClamp('c1', [], [edge]).over_mm).toBe(0)
    expect(usualDowel('d1', []).side).toBe('+y')
  })

  it('are tightened in another order by moving one', () => {
    expect(moved(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b'])
  })

  it('change by what differs', () => {
    expect(changeTo(['a', 'b'], ['b', 'c'])).toEqual({ on: ['c'], off: ['a'] })
    expect(changeTo(['a', 'b'], ['b', 'a'])).toBeNull()
  })

  it('are on from one operation to another by changes between them', () => {
    const steps = ['10', '20', '30'].map((id) => ({ id, on: ['a', 'b'] }))
    expect(whenOn(steps, 'a', 0, 1)).toEqual([{ id: '20', change: { on: [], off: ['a'] } }])
    expect(whenOn(steps, 'b', 1, 2)).toEqual([{ id: '10', change: { on: ['b'], off: [] } }])
    expect(whenOn(steps, 'a', 0, 2)).toEqual([])
    const changed = [
      { id: '10', on: ['a'] },
      { id: '20', on: ['b'] },
    ]
    expect(whenOn(changed, 'a', 0, 1)).toEqual([{ id: '10', change: { on: ['b'], off: [] } }])
    const back = [
      { id: '10', on: ['a'] },
      { id: '20', on: ['a', 'b'] },
    ]
    expect(whenOn(back, 'b', 0, 1)).toEqual([{ id: '10', change: null }])
  })
})

it('names the bodies that stop a motion shortly', () => {
  expect(shortly(['dowel 1', 'dowel 2', 'table'])).toBe('dowels 1, 2, table')
  expect(shortly(['parallels'])).toBe('parallels')
  expect(shortly(['dowel 3'])).toBe('dowel 3')
})

it('carries clamps and dowels along their sides, each in its own list', () => {
  const dowel = { id: 'd1', side: '+y' as const, at_mm: -4, high_mm: 8 }
  const held = { base: 'b', clamps: [strap, { ...strap, id: 'c2', at_mm: 3 }], dowels: [dowel] }
  const rows = slidable(held)
  expect(rows.map((each) => [each.name, each.at_mm])).toEqual([
    ['dowel 1', -4],
    ['clamp 1', 12],
    ['clamp 2', 3],
  ])
  expect(carriedTo(held, rows[2]!, 7.5)).toEqual({
    'holding.clamps': [strap, { ...strap, id: 'c2', at_mm: 7.5 }],
  })
  expect(carriedTo(held, rows[0]!, 0)).toEqual({ 'holding.dowels': [{ ...dowel, at_mm: 0 }] })
})
