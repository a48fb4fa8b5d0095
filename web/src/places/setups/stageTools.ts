import type { StationResult } from '../../api/client'
import type { Prism, StageProps } from '../../stage/types'
import { toolShape } from '../../ui/toolShape'
import { along, turnShape } from '../../ui/turnShape'

const SHOWN_ABOVE_MM = 55
const BLADE_MM = 5

// A lathe is shown with its spindle level: Z to the right, X upwards.
export const lay = (at: number[]) => [at[2]!, -at[1]!, at[0]!]

// A point after a turn about the origin, row by row.
export const turnedTo = (at: number[], turn?: number[] | null) =>
  turn ? [0, 3, 6].map((row) => at.reduce((sum, v, k) => sum + turn[row + k]! * v, 0)) : at

const cornersOf = ({ corners, low, high, axis, turn }: Prism) =>
  [low, high].flatMap((end) =>
    corners.map(([a = 0, b = 0]) => {
      const at = axis === 'z' ? [a, b, end] : axis === 'y' ? [a, end, b] : [end, a, b]
      return turnedTo(at, turn)
    }),
  )

// What the stage shows of it all: the stock with what holds it, and not much of a long tool above.
export function extents(
  seen: StationResult,
  prisms: Prism[],
  tool: StageProps['tool'],
  laid: boolean,
): { low: number[]; high: number[] } {
  const low = [...seen.stock_low]
  const high = [...seen.stock_high]
  for (const each of prisms) {
    for (const at of cornersOf(each))
      at.forEach((value, k) => {
        low[k] = Math.min(low[k]!, value)
        high[k] = Math.max(high[k]!, value)
      })
  }
  if (tool)
    high[2] = Math.max(
      high[2]!,
      Math.min(
        tool.at[2]! + Math.max(...tool.sections.map((s) => s.high)),
        seen.stock_high[2]! + SHOWN_ABOVE_MM,
      ),
    )
  if (!laid) return { low, high }
  high[0] = Math.min(high[0]!, seen.stock_high[0]! + SHOWN_ABOVE_MM)
  high[2] = Math.min(high[2]!, seen.stock_high[2]! + SHOWN_ABOVE_MM)
  return {
    low: [low[2]!, -high[1]!, low[0]!],
    high: [high[2]!, -low[1]!, high[0]!],
  }
}

export function sectionsOf(
  cutter: Record<string, unknown>,
  holder: Record<string, unknown>,
  stickOut: number,
) {
  const found = toolShape(cutter, stickOut).map(({ low, high, lower, upper }) => ({
    low,
    high,
    lower,
    upper,
  }))
  let at = stickOut
  for (const each of holder.sections as {
    length_mm: number
    front_diameter_mm: number
    back_diameter_mm: number
  }[]) {
    found.push({
      low: at,
      high: at + each.length_mm,
      lower: each.front_diameter_mm / 2,
      upper: each.back_diameter_mm / 2,
    })
    at += each.length_mm
  }
  return found
}

// A turning tool where it cuts deepest, and the block of the turret behind it.
export function turret({
  at,
  cutter,
  holder,
  stickOut,
}: {
  at: number[]
  cutter: Record<string, unknown>
  holder: Record<string, unknown>
  stickOut: number
}): Prism[] {
  const shank = Number(cutter.shank_diameter_mm)
  const [r = 0, , z = 0] = at
  const tool = turnShape(cutter, stickOut).map(({ part, corners }): Prism => ({
    corners: corners.map(([u, v]) => [r + u, z + v]),
    axis: 'y',
    of: part === 'edge' ? 'edge' : 'tool',
    ...(part === 'edge' ? { low: -BLADE_MM, high: 1 } : { low: -shank, high: 0 }),
  }))
  const [section] = holder.sections as { length_mm: number; front_diameter_mm: number }[]
  if (!section) return tool
  const half = section.front_diameter_mm / 2
  const middle = along(cutter) ? r - shank / 2 : z + shank / 2
  const block = along(cutter)
    ? [
        [middle - half, z + stickOut],
        [middle + half, z + stickOut],
        [middle + half, z + stickOut + section.length_mm],
        [middle - half, z + stickOut + section.length_mm],
      ]
    : [
        [r + stickOut, middle - half],
        [r + stickOut + section.length_mm, middle - half],
        [r + stickOut + section.length_mm, middle + half],
        [r + stickOut, middle + half],
      ]
  return [...tool, { corners: block, low: -shank - 12, high: 12, axis: 'y', of: 'tool' }]
}

export type Item = (kind: string, key: string | undefined) => Record<string, unknown> | undefined
export function tallestTool(
  planned: { operations?: { tool?: string }[] },
  plan: { tools?: { id: string; number: number; assembly: string; stick_out_mm: number }[] },
  item: Item,
) {
  const used = new Set(planned.operations?.map((op) => op.tool))
  return (plan.tools ?? [])
    .filter((tool) => used.has(tool.id))
    .map((tool) => {
      const assembly = item('assemblies', tool.assembly)
      const sections = (item('holders', assembly?.holder as string)?.sections ?? []) as {
        length_mm: number
      }[]
      return {
        number: tool.number,
        name: String(item('tools', assembly?.tool as string)?.name ?? ''),
        length: tool.stick_out_mm + sections.reduce((sum, each) => sum + each.length_mm, 0),
      }
    })
    .sort((a, b) => b.length - a.length)[0]
}
