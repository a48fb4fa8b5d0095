import { describe, expect, it } from 'vitest'
import { beside, difference, FIGURES, type Side, type Variant } from '../src/places/compare/figures'
import { jobAt } from '../src/places/jobs/jobAt'

const figure = (label: string) => FIGURES.find((each) => each.label === label) ?? FIGURES[0]!
const sides = (one: Partial<Side>, other: Partial<Side>) => [one, other] as Side[]

describe('the difference of two plans', () => {
  it('speaks for the second where less of it is better', () => {
    const told = difference(figure('One part'), sides({ one_part_s: 510 }, { one_part_s: 406 }))
    expect(told).toEqual({ text: '−1:44', speaks: 1 })
    const back = difference(figure('One part'), sides({ one_part_s: 406 }, { one_part_s: 510 }))
    expect(back).toEqual({ text: '+1:44', speaks: -1 })
  })

  it('speaks for none where neither is better, and is empty where they read the same', () => {
    expect(difference(figure('Operations'), sides({ operations: 8 }, { operations: 9 }))).toEqual({
      text: '+1',
      speaks: 0,
    })
    const same = difference(
      figure('Costs, as far as known'),
      sides({ known: 1.001 }, { known: 1.002 }),
    )
    expect(same).toEqual({ text: '', speaks: 0 })
  })
})

describe('the plan beside one', () => {
  it('is the newest other one', () => {
    const variants = [{ plan: 4 }, { plan: 7 }, { plan: 9 }] as Variant[]
    expect(beside(variants, 9)?.plan).toBe(7)
    expect(beside(variants, 4)?.plan).toBe(9)
    expect(beside([{ plan: 4 }] as Variant[], 4)).toBeUndefined()
  })

  it('has an address of its own', () => {
    expect(jobAt('TW 1')).toBe('/jobs/TW%201')
    expect(jobAt('TW 1', 7)).toBe('/jobs/TW%201/of/7')
  })
})
