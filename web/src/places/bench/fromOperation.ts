import type { CalculatorWords, Evaluation, OperationResult } from '../../api/client'

type Data = Record<string, unknown> | undefined
type Spindle = { id: string; efficiency: number; ranges: { max_rpm: number }[] }
type Known = {
  op: OperationResult
  planned: Data
  tool: Data
  machine: Data
  material: Data
  stickOut?: number
  stiffness: Record<string, number>
  evaluation: Evaluation
}

// What an operation already says of a calculator's inputs, as the address of its page; of another plan than the job's own with its number.
export function benchLink(
  known: CalculatorWords,
  job: string,
  about: Known,
  variant: number | null = null,
): string {
  const values = valuesOf(about)
  const params = new URLSearchParams()
  for (const { name, required, default: fallback } of known.parameters) {
    const value = values[name]
    if (
      value !== undefined &&
      value !== null &&
      value !== '' &&
      !(
        known.either.some((group) => group.includes(name)) &&
        known.either.some((group) => group.some((other) => params.has(other)))
      ) &&
      (required || value !== fallback)
    )
      params.set(name, String(value))
  }
  params.set('for', [job, about.op.id, ...(variant === null ? [] : [variant])].join('.'))
  return `/bench/${known.name}?${params}`
}

function valuesOf({
  op,
  planned,
  tool,
  machine,
  material,
  stickOut,
  stiffness,
  evaluation,
}: Known): Record<string, unknown> {
  const figure = (name: string) => evaluation.figures[`${op.id}.${name}`]?.[0]
  const spindles = (machine?.spindles ?? []) as Spindle[]
  const spindle = spindles.find((each) => each.id === op.spindle)
  const ranges = spindle?.ranges ?? []
  const chip = figure('chip')
  const speed = figure('cutting_speed')
  const most = ranges.length ? Math.max(...ranges.map((each) => each.max_rpm)) : undefined
  const at =
    typeof op.feed_per_rev_mm === 'number' && typeof speed === 'number' && op.rpm
      ? +((1000 * speed) / (Math.PI * op.rpm)).toFixed(3)
      : undefined // where the work turns, the diameter cut at
  return {
    ...(at !== undefined && turned(at, planned, tool, figure)),
    diameter_mm: at ?? tool?.diameter_mm,
    flutes: tool?.flutes,
    edge_angle_deg: tool?.edge_angle_deg,
    point_angle_deg: tool?.point_angle_deg,
    included_angle_deg: tool?.included_angle_deg,
    pitch_mm: planned?.pitch_mm ?? tool?.pitch_mm,
    major_mm: tool?.kind === 'tap' ? tool.diameter_mm : undefined,
    rpm: op.rpm,
    cutting_speed_m_min: speed,
    feed_per_tooth_mm: chip,
    feed_per_rev_mm: chip,
    max_chip_mm: chip,
    axial_depth_mm: op.depth_mm,
    radial_width_mm: op.width_mm,
    depth_mm: op.depth_mm,
    peck_mm: planned?.peck_mm,
    step_mm: op.width_mm,
    kc11_n_mm2: material?.kc11_n_mm2,
    mc: material?.mc,
    efficiency: spindle?.efficiency,
    max_rpm: most,
    max_feed_mm_min: machine?.max_feed_mm_min,
    force_n: figure('wall_force') ?? figure('side_force'),
    sections: tool && stickOut ? sectionsOf(tool, stickOut, stiffness) : undefined,
  }
}

function turned(
  at: number,
  planned: Data,
  tool: Data,
  figure: (name: string) => unknown,
): Record<string, unknown> {
  const on = planned?.on as { to_diameter_mm?: number; at_mm?: number[][] } | undefined
  const sizes = on?.at_mm?.map((each) => each[1]!)
  return {
    nose_radius_mm: tool?.corner_radius_mm,
    thread_depth_mm: figure('thread_depth'),
    passes: planned?.passes,
    starts: planned?.starts,
    outer_mm: at,
    inner_mm: on?.to_diameter_mm,
    start_diameter_mm: at,
    finish_diameter_mm: sizes && Math.min(...sizes),
    max_depth_mm: planned?.depth_mm,
    finish_allowance_mm: planned?.leave_mm,
  }
}

// A fluted length bends like a cylinder of a share of the diameter.
function sectionsOf(
  tool: Record<string, unknown>,
  stickOut: number,
  stiffness: Record<string, number>,
): string {
  const modulus = stiffness[String(tool.material)] ?? stiffness.carbide
  const [fluted, necked] = [
    Math.min(Number(tool.flute_length_mm), stickOut),
    Math.min(Number(tool.usable_length_mm), stickOut),
  ]
  const rows = [
    [fluted, Number(tool.diameter_mm) * (stiffness.flute_share ?? 1)],
    [necked - fluted, Number(tool.neck_diameter_mm ?? tool.shank_diameter_mm)],
    [stickOut - Math.max(necked, fluted), Number(tool.shank_diameter_mm)],
  ]
  return rows
    .filter(([length]) => (length ?? 0) > 1e-6)
    .map(([length, diameter]) => `${+length!.toFixed(4)}:${+diameter!.toFixed(4)}:${modulus}`)
    .join(',')
}

// The comparisons that answer what an operation of this kind leaves open, with its values.
export function comparisons(about: {
  op: OperationResult
  bench: string
  planned: Data
  material: string
  quantity: number
  assemblies: string[]
}): { to: string; words: string }[] {
  const { op, bench, planned, material } = about
  if (bench === 'hole-methods' && op.depth_mm) {
    const on = planned?.on as { ids?: string[]; at_mm?: unknown[] } | undefined
    const params = new URLSearchParams({
      diameter_mm: String(op.sizes.d ?? ''),
      depth_mm: String(op.depth_mm),
      count: String(on?.ids?.length ?? on?.at_mm?.length ?? 1),
      material,
      loaded: about.assemblies.join(','),
    })
    return [{ to: `/bench/hole-methods?${params}`, words: 'other ways to this hole' }]
  }
  if (bench === 'slope-methods') {
    const values = {
      size_mm: planned?.size_mm,
      angle_deg: planned?.angle_deg ?? 45,
      cusp_mm: planned?.cusp_mm ?? 0.01,
      quantity: about.quantity,
      material,
    }
    const passes = Math.max(1, op.worked.find((each) => each.id === 'passes')?.value ?? 1)
    const params = new URLSearchParams({
      ...Object.fromEntries(Object.entries(values).map(([name, value]) => [name, String(value)])),
      length_mm: String(+(op.path_mm / passes).toFixed(0)),
    })
    return [{ to: `/bench/slope-methods?${params}`, words: 'other ways to this chamfer' }]
  }
  return []
}
