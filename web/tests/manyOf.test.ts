import { expect, test } from 'vitest'
import { best, curves, type Many } from '../src/places/load/manyOf'

const many = (parts: number, one_part_s: number, batch_part_s: number, stops = 0): Many => ({
  parts,
  cycle_s: 0,
  one_part_s,
  batch_part_s,
  cycles: 1,
  last: 1,
  one_less_s: 0,
  cost: 0,
  stops: Array.from({ length: stops }, () => ({ text: 'no', values: {} })),
  edits: [],
})

test('the best is the least of the batch that nothing stops', () => {
  const found = [many(1, 100, 200), many(2, 90, 150), many(3, 80, 120, 1)]
  expect(best(found)?.parts).toBe(2)
  expect(best([many(1, 1, 1, 1)])).toBeUndefined()
})

test('the least lies lowest and the most on top', () => {
  const [first, second] = curves([many(1, 100, 200), many(2, 50, 150)], 200, 100)
  expect(first).toEqual({ x: 50, part: expect.closeTo(66.67, 1), batch: 0 })
  expect(second).toEqual({ x: 150, part: 100, batch: expect.closeTo(33.33, 1) })
})
