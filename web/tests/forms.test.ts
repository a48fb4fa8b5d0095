import { describe, expect, it } from 'vitest'
import { valueAt } from '../src/places/setups/forms'

describe('a value of a plan', () => {
  it('is reached inside a place', () => {
    expect(valueAt({ on: { depth_mm: 26 } }, 'on.depth_mm')).toBe(26)
    expect(valueAt({ on: {} }, 'on.depth_mm')).toBeUndefined()
    expect(valueAt({}, 'on.depth_mm')).toBeUndefined()
  })
})
