import type { components } from '../../api/schema'

export type Found = components['schemas']['MagazineOut'][]
type Pocket = Found[number]['pockets'][number]
type State = 'free' | 'in' | 'there' | 'stays' | 'over'

// Of a pocket: free, to be filled for the plan, filled with it already, kept for others, or wanted by both.
export function stateOf(each: Pocket): State {
  if (each.there) return 'there'
  if (each.tool && each.stays) return 'over'
  if (each.tool) return 'in'
  return each.stays ? 'stays' : 'free'
}

export const WORDS: Record<State, (tool: string, stays: string, of: string) => string> = {
  free: () => 'free',
  in: (tool) => `${tool} is put in`,
  there: (tool, _, of) => `${tool} stays there${of}`,
  stays: (_, stays, of) => `${stays} stays${of}`,
  over: (tool, stays, of) => `${tool} is to be put in, where ${stays} stays${of}`,
}
