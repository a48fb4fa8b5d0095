// Corners in X and Y drawn up along Z, in X and Z along Y, or in Y and Z along X; then turned, row by row.
export type Prism = {
  corners: number[][]
  low: number
  high: number
  axis: 'x' | 'y' | 'z'
  of: 'jaw' | 'tool' | 'edge'
  turn?: number[] | null
}
// Equal parts, held alike: how their stock lies, and where each stands, as the 3x4 matrix of its frame row by row.
export type Copy = {
  mesh: string
  prisms: Prism[]
  at: number[][]
  of: { stock_low: number[]; stock_high: number[] }
}
export type ViewName = 'iso' | 'above' | 'front' | 'side'
export type Label = {
  at: number[]
  words: string
  tone?: 'zero' | 'stop' | 'quiet' | 'mark' | 'pick'
  dx?: number
  dy?: number
}
// Where somebody clicked on the solid, which way it looks there, and what a pixel is (mm).
export type OnPick = (at: number[], looks: number[], pixel: number) => void
export type StageProps = {
  onPick?: OnPick
  mesh: string | null
  plain?: boolean // no sawn skin: a finished part
  far?: Record<number, string> // how far each face of a finished part is
  prisms?: Prism[]
  copies?: Copy[]
  laid?: boolean // the setup's Z lies to the right, its X upwards: a lathe
  tool?: {
    at: number[]
    axis?: number[] | null
    sections: { low: number; high: number; lower: number; upper: number }[]
  } | null
  way?: { at: number[][]; load: number[] } // where a tool's tip goes, and its load of what there may be
  zero: boolean
  view: ViewName
  turned: number
  low: number[]
  high: number[]
  labels: Label[]
}
