import { describe, expect, it, test } from 'vitest'
import { CALLED, called, DOES, onScale, plainly, timesOf } from '../src/places/library/timing'

describe('values of a timed machine', () => {
  it('has the same in the middle, three times at the end, and nothing beyond', () => {
    expect(onScale(1)).toBeCloseTo(0.5)
    expect(onScale(3)).toBeCloseTo(1)
    expect(onScale(9)).toBeCloseTo(1)
    expect(onScale(1 / 3)).toBeCloseTo(0)
    expect(onScale(0.5) + onScale(2)).toBeCloseTo(1)
  })
  it('shows three figures', () => {
    expect(plainly(23466.1)).toBe('23,500')
    expect(plainly(0.04976)).toBe('0.0498')
  })
  it('sends only runs that have a time', () => {
    expect(timesOf({ 'x-long': 20.4, change: null, spindle: 0 })).toEqual([
      { run: 'x-long', seconds: 20.4 },
    ])
  })
  it('calls what it does not know by its name', () => {
    expect(called('change_s')).toBe('Tool change, chip to chip')
    expect(called('unheard_of')).toBe('unheard_of')
  })
})

test('of every value it is said what it decides', () => {
  expect(Object.keys(DOES)).toEqual(Object.keys(CALLED))
})
