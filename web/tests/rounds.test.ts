import { expect, test } from 'vitest'
import { roundWhenDone } from '../src/ui/rounds'

test('a finished part is round where it fills more than a square of its blank would', () => {
  expect(roundWhenDone(2, [50, 50, 100], [48, 48, 42])).toBe(2)
  expect(roundWhenDone(2, [50, 50, 100], [30, 30, 42])).toBeNull() // could be square
  expect(roundWhenDone(0, [100, 50, 50], [90, 48, 48])).toBe(0)
  expect(roundWhenDone(2, [50, 50, 100], [48, 40, 42])).toBeNull()
  expect(roundWhenDone(null, [50, 50, 20], [48, 48, 18])).toBeNull()
})
