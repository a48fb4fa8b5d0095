import type { CalculatorWords, Evaluation, OperationResult } from '../../api/client'

type Data = Record<string, unknown> | undefined
type Known = { op: OperationResult; planned: Data; tool: Data; machine: Data; material: Data; stickOut?: number; evaluation: Evaluation }
const FLUTE_SHARE = 0.8
const MODULUS: Record<string, number> = { carbide: 600, hss: 210 }

// What an operation already says of a calculator's inputs, as the address of its page.
export function benchLink(known: CalculatorWords, job: string, about: Known): string {
  const values = valuesOf(about)
  const params = new URLSearchParams()
  for (const { name, required, default: fallback } of known.parameters) {
    const value = values[name]
    if (value !== undefined && value !== null && value !== '' && !(known.either.some((group) => group.includes(name)) && known.either.some((group) => group.some((other) => params.has(other)))) && (required || value !== fallback)) params.set(name, String(value))
  }
  params.set('for', `${job}.${about.op.id}`)
  return `/bench/${known.name}?${params}`
}

function valuesOf({ op, planned, tool, machine, material, stickOut, evaluation }: Known): Record<string, unknown> {
  const figure = (name: string) => evaluation.figures[`${op.id}.${name}`]?.[0]
  const ranges = (machine?.ranges ?? []) as { max_rpm: number }[]
  const chip = figure('chip')
  return {
    diameter_mm: tool?.diameter_mm, flutes: tool?.flutes, edge_angle_deg: tool?.edge_angle_deg, point_angle_deg: tool?.point_angle_deg, included_angle_deg: tool?.included_angle_deg, pitch_mm: tool?.pitch_mm, major_mm: op.kind === 'tap' ? tool?.diameter_mm : undefined,
    rpm: op.rpm, cutting_speed_m_min: figure('cutting_speed'), feed_per_tooth_mm: chip, feed_per_rev_mm: chip, max_chip_mm: chip, axial_depth_mm: op.depth_mm, radial_width_mm: op.width_mm, depth_mm: op.depth_mm,
    peck_mm: planned?.peck_mm, step_mm: op.width_mm, kc11_n_mm2: material?.kc11_n_mm2, mc: material?.mc, efficiency: machine?.efficiency, max_rpm: ranges.length ? Math.max(...ranges.map((each) => each.max_rpm)) : undefined, max_feed_mm_min: machine?.max_feed_mm_min,
    force_n: figure('wall_force') ?? figure('side_force'), sections: tool && stickOut ? sectionsOf(tool, stickOut) : undefined,
  }
}

function sectionsOf(tool: Record<string, unknown>, stickOut: number): string {
  const modulus = MODULUS[String(tool.material)] ?? MODULUS.carbide
  const [fluted, necked] = [Math.min(Number(tool.flute_length_mm), stickOut), Math.min(Number(tool.usable_length_mm), stickOut)]
  const rows = [[fluted, Number(tool.diameter_mm) * FLUTE_SHARE], [necked - fluted, Number(tool.neck_diameter_mm ?? tool.shank_diameter_mm)], [stickOut - Math.max(necked, fluted), Number(tool.shank_diameter_mm)]]
  return rows.filter(([length]) => (length ?? 0) > 1e-6).map(([length, diameter]) => `${+length!.toFixed(4)}:${+diameter!.toFixed(4)}:${modulus}`).join(',')
}
