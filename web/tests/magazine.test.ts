import { describe, expect, it } from 'vitest'
import { stateOf, WORDS } from '../src/places/order/magazine'

const tool = { number: 4, name: 'end mill 12', of: '' }
const stays = { number: 9, name: 'drill 5', of: 'ZZ-9' }

describe('a pocket', () => {
  it('is free, filled, kept, or wanted by both', () => {
    const of = (more: object) =>
      stateOf({ pocket: 1, tool: null, stays: null, there: false, ...more })
    expect(of({})).toBe('free')
    expect(of({ tool })).toBe('in')
    expect(of({ stays })).toBe('stays')
    expect(of({ tool, stays })).toBe('over')
    expect(of({ tool, stays, there: true })).toBe('there')
  })
  it('says for which job another stays', () => {
    expect(WORDS.over('T4 end mill 12', 'T9 drill 5', ' for ZZ-9')).toBe(
      'T4 end mill 12 is to be put in, where T9 drill 5 stays for ZZ-9',
    )
  })
})
