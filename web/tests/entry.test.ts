import { readFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { beforeAll, describe, expect, it } from 'vitest'
import { parse, setUnits, type Units } from '../src/ui/entry'

type Row = { text: string; quantity: string; value: number | null; drill?: boolean; unit?: string }
const rows = JSON.parse(readFileSync('../tests/vectors/entry.json', 'utf8')) as Row[]

beforeAll(() => {
  // the units as the server sends them, from the core itself
  const code = 'import json; from machining.quantities.units import QUANTITIES as q; from machining.quantities.entry import drill_sizes as d; print(json.dumps([{k: {"base": b, "units": u} for k, (b, u) in q.items()}, d()]))'
  const [units, drills] = JSON.parse(execFileSync('../.venv/bin/python', ['-c', code], { cwd: '.', env: { ...process.env, PYTHONPATH: '..' }, encoding: 'utf8' })) as [Units, Record<string, number>]
  setUnits(units, drills)
})

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
