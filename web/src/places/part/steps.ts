import type { components } from '../../api/schema'

export type Chain = components['schemas']['ChainOut']
export type Stair = { from: number; wide: number }

// A chain's links one after the other, px, with room for what is allowed.
export function steps(
  chain: { links: { mm: number }[]; worst_mm: number; allowed_mm: number },
  wide: number,
): { stairs: Stair[]; scale: number } {
  const scale = wide / Math.max(chain.worst_mm, chain.allowed_mm * 1.05, 1e-9)
  const stairs: Stair[] = []
  let from = 0
  for (const { mm } of chain.links) {
    stairs.push({ from, wide: mm * scale })
    from += mm * scale
  }
  return { stairs, scale }
}
