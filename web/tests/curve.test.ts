import { expect, test } from 'vitest'
import { withRoom } from '../src/places/time/Curve'

test('quantities that would be written over each other are not, the one ordered always is', () => {
  const named = withRoom([20, 44, 46, 73, 80], 46, (n) => 2 * n)
  expect([...named].sort((a, b) => a - b)).toEqual([20, 46, 73])
})
