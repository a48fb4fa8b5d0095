import type { components } from '../../api/schema'
import { clock } from '../../ui/format'

export type Compared = components['schemas']['CompareOut']
export type Side = Compared['sides'][number]
export type Variant = components['schemas']['VariantOut']

export type Figure = {
  label: string
  of: (side: Side) => number | null
  said: (value: number) => string
  // whether less of it is better, or neither
  better: 'less' | 'neither'
}

const count = (value: number) => `${value}`
const money = (value: number) => value.toFixed(2)

export const FIGURES: Figure[] = [
  { label: 'One part', of: (s) => s.one_part_s, said: clock, better: 'less' },
  { label: 'The batch', of: (s) => s.batch_s, said: clock, better: 'less' },
  { label: 'of it building and proving', of: (s) => s.build_s, said: clock, better: 'less' },
  { label: 'the first run takes longer by', of: (s) => s.prove_out_s, said: clock, better: 'less' },
  { label: 'By hand, a part', of: (s) => s.by_hand_s, said: clock, better: 'less' },
  { label: 'Costs, as far as known', of: (s) => s.known, said: money, better: 'less' },
  { label: 'Setups', of: (s) => s.setups, said: count, better: 'less' },
  { label: 'Operations', of: (s) => s.operations, said: count, better: 'neither' },
  { label: 'Tools to load', of: (s) => s.tools, said: count, better: 'less' },
  { label: 'of them made for it', of: (s) => s.special, said: count, better: 'less' },
  { label: 'of them too few in the shop', of: (s) => s.buys.length, said: count, better: 'less' },
  { label: 'Steps elsewhere', of: (s) => s.elsewhere, said: count, better: 'less' },
  { label: 'Stops', of: (s) => s.stops, said: count, better: 'less' },
  { label: 'To look at', of: (s) => s.looks, said: count, better: 'less' },
  { label: 'Operations with a question open', of: (s) => s.unknown, said: count, better: 'less' },
]

// What the second one has more or less of, and whether that speaks for it; empty where both are the same.
export function difference(figure: Figure, sides: Side[]): { text: string; speaks: -1 | 0 | 1 } {
  const [one, other] = sides.map((side) => figure.of(side) ?? 0)
  if (one === undefined || other === undefined) return { text: '', speaks: 0 }
  const by = other - one
  const said = figure.said(Math.abs(by))
  if (said === figure.said(0)) return { text: '', speaks: 0 }
  return {
    text: `${by > 0 ? '+' : '−'}${said}`,
    speaks: figure.better === 'neither' ? 0 : by < 0 ? 1 : -1,
  }
}

// The other plan that one is compared with at first: the newest beside it.
export const beside = (variants: Variant[], plan: number): Variant | undefined =>
  [...variants].reverse().find((each) => each.plan !== plan)
