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

  it('asks a slot for steps and what it leaves only where its tool is smaller', () => {
    const asked = (cuts: string | undefined) =>
      ['step_over_mm', 'leave_mm', 'ramp_deg'].map((name) => asks({ kind: 'slot', cuts })({ name }))
    expect(asked(undefined)).toEqual([false, false, true])
    expect(asked('walls')).toEqual([false, true, true])
    expect(asked('loops')).toEqual([true, true, true])
    expect(asks({ kind: 'rough_pocket' })({ name: 'step_over_mm' })).toBe(true)
  })
})
