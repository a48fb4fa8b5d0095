import { expect, test } from 'vitest'
import { headings } from '../src/places/setups/runs'

const cut = (id: string, side = '', index = '', station = 'st1') => ({
  id,
  station,
  turned: side || index ? { side, index, askew: false, loose: '', seconds: 0 } : null,
})

test('a run from one side has a heading, one alone has none', () => {
  const found = headings(
    [
      cut('a'),
      cut('b'),
      cut('c', 'back', 'B180'),
      cut('d', 'back', 'B180'),
      cut('e', 'front', 'B0'),
    ],
    ['st1'],
  )
  expect([...found.keys()]).toEqual(['c'])
  expect(found.get('c')).toEqual({ station: 0, side: 'back', index: 'B180', count: 2 })
})

test('what is turned alike is one run, whatever is turned for', () => {
  const found = headings(
    [cut('a', 'face 30° from its left side', 'C1=-150'), cut('b', 'hole 30° from it', 'C1=-150')],
    ['st1', 'st2'],
  )
  expect(found.get('a')?.count).toBe(2)
})

test('as it stands again after a side is told, and stations are numbered', () => {
  const back = headings([cut('a', 'back', 'B180'), cut('b'), cut('c')], ['st1'])
  expect([...back.entries()].map(([id, each]) => [id, each.side])).toEqual([['b', 'as it stands']])
  const two = headings(
    [cut('a'), cut('b'), cut('c', '', '', 'st2'), cut('d', '', '', 'st2')],
    ['st1', 'st2'],
  )
  expect([...two.values()].map((each) => [each.station, each.side])).toEqual([
    [1, ''],
    [2, ''],
  ])
})

test('one station from one side needs none', () => {
  expect(headings([cut('a'), cut('b')], ['st1']).size).toBe(0)
  expect(headings([], ['st1', 'st2']).size).toBe(0)
  // turning from face to face of a tombstone is no side of the part
  expect(headings([cut('a', '', 'B90'), cut('b')], ['st1']).size).toBe(0)
})
