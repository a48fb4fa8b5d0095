import { expect, test } from 'vitest'
import { steps } from '../src/places/part/steps'

const chain = (allowed_mm: number, ...mm: number[]) => ({
  links: mm.map((each) => ({ mm: each })),
  worst_mm: mm.reduce((sum, each) => sum + each, 0),
  allowed_mm,
})

test('each step begins where the one before it ends and the last ends at the worst', () => {
  const { stairs, scale } = steps(chain(0.01, 0.02, 0.01, 0.005), 350)
  expect(scale).toBeCloseTo(10_000)
  expect(stairs.map(({ from }) => from)).toEqual([0, 200, 300].map((x) => expect.closeTo(x)))
  expect(stairs[2]!.from + stairs[2]!.wide).toBeCloseTo(350)
})

test('what is allowed stays in the drawing where it is more', () => {
  const { scale } = steps(chain(1, 0.1), 105)
  expect(scale * 1).toBeCloseTo(100)
})
