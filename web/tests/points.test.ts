import { beforeAll, describe, expect, it } from 'vitest'
import { placesOf, written } from '../src/ui/points'
import { knowUnits } from './core'

beforeAll(knowUnits)

const value = (text: string, system: 'metric' | 'inch' = 'metric', least = 1) => {
  const read = placesOf(text, 'Places', system, least)
  return read.ok ? read.value : read.sentence
}

describe('places as they are typed', () => {
  it.each([
    ['10, 20', [[10, 20]]],
    ['10,20', [[10, 20]]],
    [
      '10 20; -30 5',
      [
        [10, 20],
        [-30, 5],
      ],
    ],
    [
      '10, 20; 30, 20;',
      [
        [10, 20],
        [30, 20],
      ],
    ],
    ['12,5 7,25', [[12.5, 7.25]]],
    ['12,5, 7,25', [[12.5, 7.25]]],
    ['1/2 in, 3/4 in', [[12.7, 19.05]]],
    ['-1.5, +2', [[-1.5, 2]]],
  ])('%s', (text, places) => expect(value(text)).toEqual(places))

  it('are inches where the page shows inches, unless a unit is said', () => {
    expect(value('1, 2', 'inch')).toEqual([[25.4, 50.8]])
    expect(value('1, 25.4 mm', 'inch')).toEqual([[25.4, 25.4]])
  })

  it.each([
    ['10', 'Places: “10” is not two numbers; write them as 10, 20 with ; between places.'],
    [
      '10, 20, 30',
      'Places: “10, 20, 30” is not two numbers; write them as 10, 20 with ; between places.',
    ],
    ['a, b', 'Places: “a” is not understood'],
    ['', 'Places: nothing is not enough'],
  ])('%s is refused by name', (text, words) => expect(value(text)).toContain(words))

  it('say how many there must be', () =>
    expect(value('10, 20', 'metric', 2)).toContain(
      'one place is not enough; write 2 places or more',
    ))

  it('come back as they were written, in both systems', () => {
    const places = [
      [12.7, -3.175],
      [0, 100.0001],
    ]
    for (const system of ['metric', 'inch'] as const)
      for (const [k, place] of (value(written(places, system), system) as number[][]).entries())
        for (const [n, each] of place.entries())
          expect(each).toBeCloseTo((places[k] as number[])[n] as number, 3)
    expect(written([[-0.000001, 25.4]], 'inch')).toBe('0, 1')
  })
})
