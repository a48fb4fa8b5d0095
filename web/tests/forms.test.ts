import { describe, expect, it } from 'vitest'
import { asks, valueAt } from '../src/places/setups/forms'

describe('a value of a plan', () => {
  it('is reached inside a place', () => {
    expect(valueAt({ on: { depth_mm: 26 } }, 'on.depth_mm')).toBe(26)
    expect(valueAt({ on: {} }, 'on.depth_mm')).toBeUndefined()
    expect(valueAt({}, 'on.depth_mm')).toBeUndefined()
  })
})

describe('the side of its lines', () => {
  it('is asked where the tool stands beside them', () => {
    const side = { name: 'on.tool_side' }
    expect(asks({ kind: 'slope' })(side)).toBe(true)
    expect(asks({ kind: 'slot', runs: 'beside' })(side)).toBe(true)
    expect(asks({ kind: 'slot', runs: 'on' })(side)).toBe(false)
    expect(asks({ kind: 'engrave' })(side)).toBe(false)
    expect(asks({ kind: 'engrave' })({ name: 'on.top_mm' })).toBe(true)
  })
})
