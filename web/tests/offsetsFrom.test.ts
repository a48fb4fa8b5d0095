import { expect, test } from 'vitest'
import { keyOf, readFrom } from '../src/places/load/offsetsFrom'

const row = (position: number, at: number[] | null, from_first = false) => ({
  station: 1,
  position,
  side: '',
  code: 'G54',
  at,
  from_first,
})
const rows = [
  row(1, [-300, -200, -450]),
  row(2, [-175, -200, -449]),
  row(3, [10, 0, 0], true),
  row(4, null),
]

test('offsets are read from the one that is chosen', () => {
  const found = readFrom(rows as never[], keyOf(rows[1] as never)) as typeof rows
  expect(found.map((each) => each.at)).toEqual([[-125, 0, -1], [0, 0, 0], [10, 0, 0], null])
})

test('without a choice, or from what is not there, they stay', () => {
  expect(readFrom(rows as never[], '')).toEqual(rows)
  expect(readFrom(rows as never[], '9:9:')).toEqual(rows)
  expect(readFrom(rows as never[], keyOf(rows[3] as never))).toEqual(rows)
})
