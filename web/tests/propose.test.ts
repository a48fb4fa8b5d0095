import { describe, expect, it } from 'vitest'
import {
  editsOf,
  forWhat,
  nameFor,
  type Proposal,
  shareOf,
  together,
} from '../src/places/propose/proposals'

const setup = (id: string, machine: string, parts = 1): Proposal['setups'][number] => ({
  id,
  machine,
  sides: ['top'],
  operations: 3,
  tools: 2,
  parts,
  cycle_s: 120,
  because: [],
  instead: [],
  edits: [{ do: 'add_setup', setup: { id } }],
})

const proposal: Proposal = {
  machine: 'heron',
  for_what: ['setups', 'money'],
  whole: true,
  first: [{ do: 'remove_setup', setup: 'old' }],
  setups: [setup('s1', 'Heron'), setup('s2', 'Dunlin', 4)],
  one_part_s: 150,
  batch_s: 9000,
  build_s: 1800,
  cost: 400,
  cost_whole: false,
  buys: [],
  tools: 4,
  stops: [],
  looks: [],
  unknown: 0,
  left_mm3: 0,
  missed: [],
}

describe('other machines', () => {
  const said = (text: string) => ({ text, values: {} })
  const left = {
    machine: 'Plover',
    why: said('left'),
    missed: [{ what: said('a'), why: said('b') }],
  }
  it('with the same answer stand together, but those that list what they leave', () => {
    const others = [
      left,
      { machine: 'Heron', why: said('not planned on'), missed: [] },
      { ...left, machine: 'Gannet' },
      { machine: 'Curlew', why: said('not planned on'), missed: [] },
      { machine: 'Petrel', why: said('nothing'), missed: [] },
    ]
    expect(together(others).map((each) => each.machines)).toEqual([
      ['Plover'],
      ['Heron', 'Curlew'],
      ['Gannet'],
      ['Petrel'],
    ])
    expect(together([])).toEqual([])
  })
})

describe('a proposal', () => {
  it('says what it is the best of', () => {
    expect(forWhat(proposal)).toBe('Fewest setups, least money')
    expect(forWhat({ ...proposal, for_what: ['part'] })).toBe('As far as it goes')
  })
  it('is taken whole, or its first setups', () => {
    expect(editsOf(proposal)).toHaveLength(3)
    expect(editsOf(proposal, 1)).toEqual([
      { do: 'remove_setup', setup: 'old' },
      { do: 'add_setup', setup: { id: 's1' } },
    ])
  })
  it('shares a cycle among the parts of a load', () => {
    expect(proposal.setups.map(shareOf)).toEqual([120, 30])
  })
  it('has a name that no plan of the job has', () => {
    expect(nameFor(proposal, [])).toBe('Fewest setups, Heron, Dunlin')
    expect(nameFor(proposal, ['fewest setups, heron, dunlin'])).toBe(
      'Fewest setups, Heron, Dunlin 2',
    )
    const long = { ...proposal, setups: [setup('s1', 'x'.repeat(90))] }
    expect(nameFor(long, []).length).toBeLessThanOrEqual(60)
  })
})
