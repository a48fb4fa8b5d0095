import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { parse } from '../src/ui/entry'
import { knowUnits } from './core'

type Row = { text: string; quantity: string; value: number | null; drill?: boolean; unit?: string }
const rows = JSON.parse(readFileSync('../tests/vectors/entry.json', 'utf8')) as Row[]

beforeAll(knowUnits)

describe('entries are read as the core reads them', () => {
  it.each(rows)('$text as $quantity', ({ text, quantity, value, drill, unit }) => {
    const read = parse(text, quantity, 'Stick-out', unit, drill)
    if (value === null) {
      expect(read.ok).toBe(false)
      if (!read.ok) expect(read.sentence).toMatch(/^Stick-out: .*write /)
    } else {
      expect(read.ok).toBe(true)
      if (read.ok) expect(read.value).toBeCloseTo(value, 9)
    }
  })
})

describe('a bare number', () => {
  it('is in the unit that stands beside the field', () => {
    expect(parse('0.5', 'length', 'Grip', 'in')).toEqual({ ok: true, value: 12.7 })
    expect(parse('0.5 mm', 'length', 'Grip', 'in')).toEqual({ ok: true, value: 0.5 })
  })
})
