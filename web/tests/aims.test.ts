import { expect, test } from 'vitest'
import { aimOf, isTurned, onBy, sideOf } from '../src/places/setups/aims'

test('a side, a side turned on, what is slanted', () => {
  expect([sideOf('+x'), onBy('+x')]).toEqual(['+x', 0])
  expect([sideOf('+x -22.5 z'), onBy('+x -22.5 z')]).toEqual(['+x', -22.5])
  expect([sideOf('s1c761fb4'), onBy('s1c761fb4')]).toEqual(['s1c761fb4', 0])
  expect([sideOf(''), onBy('')]).toEqual(['', 0])
  expect(aimOf('+x', 22.50049, 'z')).toBe('+x 22.5 z')
  expect([isTurned('turn_face'), isTurned('part_off'), isTurned('drill')]).toEqual([
    true,
    true,
    false,
  ])
  expect(aimOf('+x', 0.0001, 'z')).toBe('+x')
})
