import type { Edit } from '../../api/client'
import type { components } from '../../api/schema'
import { freeName } from '../jobs/freeName'

export type Proposals = components['schemas']['ProposalsOut']
export type Proposal = Proposals['proposals'][number]
export type Other = Proposals['elsewhere'][number]

const FOR: Record<string, string> = {
  setups: 'fewest setups',
  time: 'least time',
  money: 'least money',
  small: 'all on the smallest machine',
  other: 'another way',
  part: 'as far as it goes',
}

// What a proposal is the best of, as a heading: "Fewest setups, least time".
export function forWhat(proposal: Proposal): string {
  const said = proposal.for_what.map((each) => FOR[each] ?? each).join(', ')
  return said.charAt(0).toUpperCase() + said.slice(1)
}

// Other machines with the same answer, where it lists nothing, stand together.
export function together(others: Other[]): { machines: string[]; of: Other }[] {
  const rows: { machines: string[]; of: Other }[] = []
  for (const each of others) {
    const like = rows.find(
      ({ of }) => of.missed.length + each.missed.length === 0 && same(of.why, each.why),
    )
    if (like) like.machines.push(each.machine)
    else rows.push({ machines: [each.machine], of: each })
  }
  return rows
}

const same = (one: Other['why'], other: Other['why']): boolean =>
  JSON.stringify(one) === JSON.stringify(other)

// Its edits with those of its first setups, of all where no number is given.
export function editsOf(proposal: Proposal, setups = proposal.setups.length): Edit[] {
  return [
    ...proposal.first,
    ...proposal.setups.slice(0, setups).flatMap((each) => each.edits),
  ] as Edit[]
}

// Seconds of a part that a setup takes.
export const shareOf = (setup: Proposal['setups'][number]): number =>
  setup.cycle_s / Math.max(setup.parts, 1)

// A name for a plan that is none of the job's yet.
export function nameFor(proposal: Proposal, taken: string[]): string {
  const machines = [...new Set(proposal.setups.map((each) => each.machine))].join(', ')
  return freeName(`${forWhat(proposal).split(',')[0] ?? ''}, ${machines}`, taken)
}
