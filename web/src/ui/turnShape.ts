// The outline of a turning tool seen along its rake face: u away from the work, v away from the chuck, the tip at 0, 0. Lengths in mm.
export type Outline = { part: 'edge' | 'shank'; corners: [number, number][] }
type Data = Record<string, unknown>
const INSERT_MM = 11
const THREAD_MM = 8
const ASIDE = 0.75
const UNDER_DEG = 5 // between a trailing edge and what it may follow

const TURNING = /^(turning_(rough|finish|thread|groove)|face_groove|part_off|boring_bar)$/
export const turns = (tool: Data) => TURNING.test(String(tool.kind))
export const along = (tool: Data) => tool.kind === 'boring_bar' || tool.kind === 'face_groove'

const box = (u0: number, u1: number, v0: number, v1: number): [number, number][] => [
  [u0, v0],
  [u1, v0],
  [u1, v1],
  [u0, v1],
]
const radians = (degrees: number) => (degrees * Math.PI) / 180

// A rhombus with its tip at 0, 0: its main edge stands at the edge angle to the feed, its trailing edge falls a little steeper than what it follows down.
function insert(tool: Data, long: number): [number, number][] {
  const main = radians(Number(tool.edge_angle_deg ?? 95))
  const trail = radians(Number(tool.max_ramp_deg ?? 0) + UNDER_DEG)
  const [a, b] = [
    [Math.sin(main) * long, -Math.cos(main) * long],
    [Math.sin(trail) * long, Math.cos(trail) * long],
  ] as const
  return [
    [0, 0],
    [a[0], a[1]],
    [a[0] + b[0], a[1] + b[1]],
    [b[0], b[1]],
  ]
}

export function turnShape(tool: Data, stickOut: number): Outline[] {
  const shank = Number(tool.shank_diameter_mm)
  const wide = Number(tool.insert_width_mm ?? 3)
  const deep = Number(tool.max_depth_mm ?? INSERT_MM)
  switch (String(tool.kind)) {
    case 'turning_thread':
      return [
        {
          part: 'shank',
          corners: box(THREAD_MM, stickOut, (ASIDE - 0.5) * shank, (ASIDE + 0.5) * shank),
        },
        {
          part: 'edge',
          corners: [
            [0, 0],
            [THREAD_MM * 1.6, -THREAD_MM * 0.92],
            [THREAD_MM * 1.6, THREAD_MM * 0.92],
          ],
        },
      ]
    case 'turning_groove':
    case 'part_off':
      return [
        { part: 'shank', corners: box(deep + 4, stickOut, -wide / 2, shank - wide / 2) },
        { part: 'edge', corners: box(0, deep + 4, -wide / 2, wide / 2) },
      ]
    case 'face_groove':
      return [
        { part: 'shank', corners: box(-shank + wide / 2, wide / 2, deep + 4, stickOut) },
        { part: 'edge', corners: box(-wide / 2, wide / 2, 0, deep + 4) },
      ]
    case 'boring_bar':
      return [
        { part: 'shank', corners: box(-shank - 1.5, -1.5, 1.5, stickOut) },
        { part: 'edge', corners: insert(tool, INSERT_MM * 0.6).map(([u, v]) => [-u, v]) },
      ]
    default:
      return [
        {
          part: 'shank',
          corners: box(INSERT_MM * 0.7, stickOut, (ASIDE - 0.5) * shank, (ASIDE + 0.5) * shank),
        },
        { part: 'edge', corners: insert(tool, INSERT_MM) },
      ]
  }
}
