export type ViewName = 'iso' | 'above' | 'front' | 'side'
export type Label = { at: number[]; words: string; tone?: 'zero' | 'stop' | 'quiet' | 'mark'; dx?: number; dy?: number }
export type StageProps = {
  mesh: string | null
  plain?: boolean // no sawn skin: a finished part
  boxes: { low: number[]; high: number[] }[]
  tool?: { at: number[]; sections: { low: number; high: number; lower: number; upper: number }[] } | null
  zero: boolean
  view: ViewName
  turned: number
  low: number[]
  high: number[]
  labels: Label[]
}
