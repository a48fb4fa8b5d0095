import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { FIELDS, KIND_NAME, PLACE_FIELDS, TURNED, valueAt } from '../src/places/setups/fields'

const [milled, turned] = ['operation', 'turned'].map((name) =>
  readFileSync(`../machining/plan/${name}.py`, 'utf8'),
) as [string, string]
const core = milled + turned
const kinds = [...core.matchAll(/kind: Literal\["(\w+)"\] = "\w+"\n {4}on: /g)].map(
  (found) => found[1] ?? '',
)
const lathe = [...turned.matchAll(/kind: Literal\["(\w+)"\] = "\w+"\n {4}on: /g)].map(
  (found) => found[1] ?? '',
)

describe('worksheets', () => {
  it('know every kind of operation of the core', () => {
    expect(kinds).toHaveLength(27)
    expect([...TURNED].sort()).toEqual([...lathe].sort())
    expect(Object.keys(FIELDS).sort()).toEqual([...kinds].sort())
    expect(Object.keys(KIND_NAME).sort()).toEqual([...kinds].sort())
  })
  it('ask only for values the core has', () => {
    for (const spec of Object.values(FIELDS).flat()) expect(core).toContain(`${spec.name}:`)
    for (const spec of Object.values(PLACE_FIELDS).flat())
      expect(core).toContain(`${spec.name.replace('on.', '')}:`)
  })
  it('reach inside a place', () => {
    expect(valueAt({ on: { depth_mm: 26 } }, 'on.depth_mm')).toBe(26)
    expect(valueAt({ on: {} }, 'on.depth_mm')).toBeUndefined()
    expect(valueAt({}, 'on.depth_mm')).toBeUndefined()
  })
})
