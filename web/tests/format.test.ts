import { readFileSync } from 'node:fs'
import { parse as parseToml } from './toml'
import { beforeAll, describe, expect, it } from 'vitest'
import {
  clock,
  type DisplayTable,
  fill,
  fixed,
  plain,
  setDisplay,
  show,
  size,
  sizes,
} from '../src/ui/format'

type Row = { value: number; quantity: string; metric: string; inch: string }
const rows = JSON.parse(readFileSync('../tests/vectors/display.json', 'utf8')) as Row[]

beforeAll(() =>
  setDisplay(parseToml(readFileSync('../machining/data/display.toml', 'utf8')) as DisplayTable),
)

describe('figures are shown as the core shows them', () => {
  it.each(rows)('$value $quantity', ({ value, quantity, metric, inch }) => {
    expect(show(value, quantity, 'metric')).toBe(metric)
    expect(show(value, quantity, 'inch')).toBe(inch)
  })
})

describe('rounding', () => {
  it('goes up from half, on the decimal text', () => {
    expect(fixed(0.125, 2)).toBe('0.13')
    expect(fixed(1.005, 2)).toBe('1.01')
    expect(fixed(2.5, 0)).toBe('3')
    expect(fixed(-2.5, 0)).toBe('-3')
    expect(fixed(9.9999, 2)).toBe('10.00')
  })
  it('knows no negative zero', () => {
    expect(fixed(-0.04, 1)).toBe('0.0')
    expect(fixed(-1e-12, 3)).toBe('0.000')
  })
  it('writes large and tiny numbers out', () => {
    expect(fixed(1e21, 0)).toBe('1000000000000000000000')
    expect(fixed(1e-7, 3)).toBe('0.000')
    expect(fixed(123456789.5, 1)).toBe('123456789.5')
  })
})

describe('times', () => {
  it.each([
    [0, '0:00'],
    [59.4, '0:59'],
    [59.5, '1:00'],
    [3599.4, '59:59'],
    [3600, '1 h 00'],
    [24516, '6 h 48'],
  ])('%d s reads %s', (seconds, text) => expect(clock(seconds)).toBe(text))
})

describe('fields', () => {
  it('show a value as exactly as it was typed', () => {
    expect(plain(9.525, 'length', 'metric')).toBe('9.525')
    expect(plain(9.525, 'length', 'inch')).toBe('0.375')
    expect(plain(12, 'length', 'metric')).toBe('12')
    expect(plain(38, 'torque', 'metric')).toBe('38')
  })
})

describe('short names', () => {
  it('carry bare sizes in both systems', () => {
    expect(sizes('4 × {d} through', { d: 6.8 }, 'metric')).toBe('4 × 6.8 through')
    expect(sizes('4 × {d} through', { d: 6.8 }, 'inch')).toBe('4 × 0.268 through')
    expect(sizes('{l} × {w}', { l: 52, w: 34 }, 'metric')).toBe('52 × 34')
    expect(sizes('2 passes', {}, 'inch')).toBe('2 passes')
  })
  it('lose needless zeros only', () => {
    expect(size(100, 'metric')).toBe('100')
    expect(size(25.4, 'inch')).toBe('1')
    expect(size(0.15, 'metric')).toBe('0.15')
  })
})

describe('sentences', () => {
  const values = { has: { value: 18, quantity: 'length' }, tool: { value: 'T6', quantity: '' } }
  it('carry their figures in both systems', () => {
    expect(fill('{tool} stands out {has}.', values, 'metric')).toBe('T6 stands out 18.0 mm.')
    expect(fill('{tool} stands out {has}.', values, 'inch')).toBe('T6 stands out 0.709 in.')
  })
  it('keep a name they do not know', () =>
    expect(fill('{nobody} knows', values, 'metric')).toBe('nobody knows'))
})
