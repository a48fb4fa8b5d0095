// A feature of the part as it is sent.
export type Feature = {
  id: string
  kind: 'hole' | 'pocket' | 'flat'
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
}
