import { describe, expect, it } from 'vitest'
import { turnShape, turns } from '../src/ui/turnShape'

const shank = { shank_diameter_mm: 25, max_depth_mm: 5 }
const rough = { ...shank, kind: 'turning_rough', edge_angle_deg: 95, max_ramp_deg: 0 }
const blades = [
  { ...shank, kind: 'turning_groove', insert_width_mm: 3 },
  { ...shank, kind: 'part_off', insert_width_mm: 2.5 },
]
const tools: Record<string, unknown>[] = [
  rough,
  ...blades,
  { ...shank, kind: 'turning_finish', edge_angle_deg: 93, max_ramp_deg: 27 },
  { ...shank, kind: 'turning_thread' },
  { ...shank, kind: 'face_groove', insert_width_mm: 3 },
  { ...shank, kind: 'boring_bar', edge_angle_deg: 93, shank_diameter_mm: 16 },
]
const edge = (tool: Record<string, unknown>) =>
  turnShape(tool, 60).find((each) => each.part === 'edge')!.corners

describe('turning tools', () => {
  it('are drawn with their tip at the origin, inside of what they reach', () => {
    expect(tools.every(turns)).toBe(true)
    expect(turns({ kind: 'end_mill' })).toBe(false)
    for (const tool of tools) {
      const least = Math.min(
        ...edge(tool).map(([u, v]) =>
          tool.kind === 'face_groove' ? v : tool.kind === 'boring_bar' ? -u : u,
        ),
      )
      expect(least, String(tool.kind)).toBeCloseTo(0, 6)
    }
  })
  it('lean their main edge over by the edge angle', () => {
    const [tip, main, , trail] = edge(rough)
    expect(tip).toEqual([0, 0])
    expect((Math.atan2(main![0], -main![1]) * 180) / Math.PI).toBeCloseTo(
      Number(rough.edge_angle_deg),
      6,
    )
    expect((Math.atan2(trail![0], trail![1]) * 180) / Math.PI).toBeCloseTo(5, 6) // it follows nothing down, and clears the cylinder by 5 degrees
  })
  it('make blades as wide as their edge', () => {
    for (const tool of blades) {
      const sides = edge(tool).map(([, v]) => v)
      expect(Math.max(...sides) - Math.min(...sides)).toBeCloseTo(Number(tool.insert_width_mm), 9)
    }
  })
})
