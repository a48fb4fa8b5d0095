// The outline of a tool from its tip up to the holder, as slices of a body of revolution. Lengths in mm, radii.
export type Slice = {
  low: number
  high: number
  lower: number
  upper: number
  part: 'edge' | 'neck' | 'shank'
}
type Data = Record<string, unknown>
const ARC_SLICES = 6
const LEAST_TIP = 0.001

export function toolShape(tool: Data, stickOut: number): Slice[] {
  const number = (name: string) => Number(tool[name] ?? 0)
  const radius = number('diameter_mm') / 2
  const flutes = Math.min(number('flute_length_mm'), stickOut)
  const usable = Math.min(Math.max(number('usable_length_mm'), flutes), stickOut)
  const neck = Number(tool.neck_diameter_mm ?? tool.shank_diameter_mm) / 2
  const slices: Slice[] = [...edge(tool, radius, flutes)]
  if (usable > flutes)
    slices.push({ low: flutes, high: usable, lower: neck, upper: neck, part: 'neck' })
  const top = Math.max(usable, flutes)
  if (stickOut > top)
    slices.push({
      low: top,
      high: stickOut,
      lower: number('shank_diameter_mm') / 2,
      upper: number('shank_diameter_mm') / 2,
      part: 'shank',
    })
  return slices
}

function edge(tool: Data, radius: number, flutes: number): Slice[] {
  const kind = String(tool.kind)
  const tip = Math.max(Number(tool.tip_diameter_mm ?? 0) / 2, LEAST_TIP)
  const straight = (low: number): Slice[] =>
    flutes > low + 1e-6 ? [{ low, high: flutes, lower: radius, upper: radius, part: 'edge' }] : []
  if (kind === 'undercut_mill')
    return [
      {
        low: 0,
        high: flutes,
        lower: radius,
        upper: Math.max(radius - flutes * tan(Number(tool.included_angle_deg) / 2), tip),
        part: 'edge',
      },
    ]
  if (kind === 'corner_rounder') {
    const r = Math.min(Number(tool.corner_radius_mm), flutes)
    const start = Math.max(radius - r, tip)
    return [...slices(r, (z) => start + r - Math.sqrt(Math.max(r * r - z * z, 0))), ...straight(r)]
  }
  const angle =
    Number(tool.point_angle_deg ?? 0) ||
    (kind === 'chamfer_mill' || kind === 'engraver' ? Number(tool.included_angle_deg) : 0)
  if (angle > 0 && angle < 180) {
    const from = kind === 'chamfer_mill' || kind === 'engraver' ? tip : LEAST_TIP
    const high = Math.min((radius - from) / tan(angle / 2), flutes)
    return [
      { low: 0, high, lower: from, upper: from + high * tan(angle / 2), part: 'edge' },
      ...straight(high),
    ]
  }
  const corner = Math.min(Number(tool.corner_radius_mm ?? 0), flutes, radius)
  if (corner > 0.05 && !kind.startsWith('turning'))
    return [
      ...slices(
        corner,
        (z) => radius - corner + Math.sqrt(Math.max(corner * corner - (corner - z) ** 2, 0)),
      ),
      ...straight(corner),
    ]
  return straight(0)
}

function slices(height: number, at: (z: number) => number): Slice[] {
  return Array.from({ length: ARC_SLICES }, (_, k) => {
    const [low, high] = [(height * k) / ARC_SLICES, (height * (k + 1)) / ARC_SLICES]
    return {
      low,
      high,
      lower: Math.max(at(low), LEAST_TIP),
      upper: at(high),
      part: 'edge' as const,
    }
  })
}

const tan = (degrees: number) => Math.tan((degrees * Math.PI) / 180)
