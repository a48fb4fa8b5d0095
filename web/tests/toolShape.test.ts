import { describe, expect, it } from 'vitest'
import { toolShape } from '../src/ui/toolShape'

const mill = {
  kind: 'end_mill',
  diameter_mm: 12,
  corner_radius_mm: 0,
  flute_length_mm: 26,
  usable_length_mm: 36,
  neck_diameter_mm: 11.5,
  shank_diameter_mm: 12,
  tip_diameter_mm: 0,
}

describe('the outline of a tool', () => {
  it('goes from flutes over neck to shank, without gaps', () => {
    const shape = toolShape(mill, 40)
    expect(shape.map((each) => [each.low, each.high, each.upper, each.part])).toEqual([
      [0, 26, 6, 'edge'],
      [26, 36, 5.75, 'neck'],
      [36, 40, 6, 'shank'],
    ])
  })
  it('ends at the holder when the tool stands deep in it', () => {
    expect(toolShape(mill, 20).map((each) => each.high)).toEqual([20])
  })
  it('runs a ball from nothing to its radius', () => {
    const shape = toolShape({ ...mill, corner_radius_mm: 6 }, 40)
    expect(shape[0]?.low).toBe(0)
    expect(shape[5]?.upper).toBeCloseTo(6)
    expect(shape[2]?.upper).toBeCloseTo(Math.sqrt(36 - 9))
  })
  it('comes to a point by half the included angle', () => {
    const shape = toolShape(
      {
        ...mill,
        kind: 'chamfer_mill',
        included_angle_deg: 90,
        tip_diameter_mm: 2,
        flute_length_mm: 8,
      },
      30,
    )
    expect(shape[0]?.high).toBeCloseTo(5)
    expect(shape[0]?.lower).toBe(1)
    expect(shape[0]?.upper).toBeCloseTo(6)
    const drill = toolShape({ ...mill, kind: 'drill', point_angle_deg: 118 }, 40)
    expect(drill[0]?.high).toBeCloseTo(6 / Math.tan((59 * Math.PI) / 180))
  })
  it('is widest at the tip of a dovetail and hollow in a corner rounder', () => {
    expect(
      toolShape(
        { ...mill, kind: 'undercut_mill', included_angle_deg: 60, flute_length_mm: 6 },
        30,
      )[0],
    ).toMatchObject({ lower: 6 })
    const rounder = toolShape(
      {
        ...mill,
        kind: 'corner_rounder',
        corner_radius_mm: 2,
        tip_diameter_mm: 7.8,
        flute_length_mm: 3,
      },
      30,
    )
    expect(rounder[0]?.lower).toBeCloseTo(4)
    expect(rounder[5]?.upper).toBeCloseTo(6)
  })
})
