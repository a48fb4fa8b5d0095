// A feature of the part as it is sent.
export type Feature = {
  id: string
  kind: 'hole' | 'pocket' | 'flat' | 'edge' | 'slanted' | 'boss'
  diameter_mm?: number
  length_mm?: number
  through?: boolean
  depth_mm?: number
  corner_radius_mm?: number
  opens?: string | string[]
  faces?: string
  area_mm2?: number
  point?: number[]
  axis?: string
  outermost?: boolean
  height_mm?: number
  bottom_deg?: number
  sinks?: { at: string; diameter_mm: number; angle_deg: number }[]
  around?: string
  open_deg?: number
  closed?: boolean
  floor_radius_mm?: number
  draft_deg?: number
  across_flats_mm?: number
  shape?: 'chamfer' | 'round' | 'face' | 'hole'
  size_mm?: number
  angle_deg?: number
  lean_deg?: number
  surfaces?: number[]
  way_into?: string
}

export const SIDE: Record<string, string> = {
  '+x': 'right',
  '-x': 'left',
  '+y': 'back',
  '-y': 'front',
  '+z': 'top',
  '-z': 'bottom',
}

// What a feature is called.
export function called(of: Feature): string {
  if (of.kind === 'hole') {
    if (of.around) return 'counterbore'
    if (of.open_deg) return of.through ? 'through hole over an edge' : 'blind hole over an edge'
    return of.through ? 'through hole' : 'blind hole'
  }
  if (of.kind === 'pocket') {
    const shape = of.through ? 'window' : of.closed === false ? 'open pocket' : 'pocket'
    return (of.across_flats_mm ? 'hexagon ' : '') + shape
  }
  if (of.kind === 'boss') return 'boss'
  if (of.kind === 'edge') return of.shape === 'chamfer' ? 'chamfer' : 'round'
  if (of.kind === 'slanted') return of.shape === 'hole' ? 'slanted hole' : 'slanted face'
  return 'flat face'
}

// The sides it is reached from.
export function sidesOf(of: Feature): string[] {
  if (of.kind === 'pocket' && of.through) {
    const one = String(of.opens)
    return [one, (one[0] === '+' ? '-' : '+') + one[1]]
  }
  return Array.isArray(of.opens) ? of.opens : of.opens ? [of.opens] : of.faces ? [of.faces] : []
}

export type Row = { of: Feature; points: number[][]; sides: string[] }

// Alike features in one row; other ways into a pocket are sides it is reached from.
export function rowsOf(features: Feature[], inBlank: string[]): Row[] {
  const rows = new Map<string, Row>()
  for (const each of features) {
    if (each.kind === 'flat' || each.way_into) continue
    const { id, point, around, surfaces, ...shape } = each
    const own = each.kind === 'slanted' && [id, surfaces]
    const key = JSON.stringify([shape, !!around, inBlank.includes(id), own])
    const also = features.filter((other) => other.way_into === id).flatMap(sidesOf)
    const row = rows.get(key) ?? { of: each, points: [], sides: sidesOf(each) }
    rows.set(key, {
      ...row,
      points: point ? [...row.points, point] : row.points,
      sides: [...new Set([...row.sides, ...also])],
    })
  }
  return [...rows.values()]
}

// Where a hole is, seen along its axis: in a side of the part, or from above.
export function holeAt(of: Pick<Feature, 'axis' | 'point' | 'opens'>): {
  side: string
  at: number[]
} {
  const along = 'xyz'.indexOf(of.axis?.[1] ?? 'z')
  const at = (of.point ?? []).filter((_, k) => k !== along)
  const opens = typeof of.opens === 'string' ? of.opens : of.opens?.[0]
  return { side: along === 2 ? '' : (SIDE[opens ?? ''] ?? ''), at }
}
