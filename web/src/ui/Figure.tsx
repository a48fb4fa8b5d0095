import { useUnits } from '../app/units'
import { fill, number, type Shown, show, size, sizes, unit } from './format'

// A number with its unit in the chosen system, the unit a little quieter.
export function Figure({
  value,
  quantity,
  bare = false,
  trim = false,
}: {
  value: number | null | undefined
  quantity: string
  bare?: boolean
  trim?: boolean
}) {
  const { system } = useUnits()
  if (value === null || value === undefined) return <span className="n">–</span>
  const symbol = unit(quantity, system)
  if (symbol === '×') return <span className="n">{show(value, quantity, system)}</span>
  return (
    <span className="n whitespace-nowrap">
      {trim ? size(value, system) : number(value, quantity, system)}
      {!bare && symbol && (
        <span className="text-ink-2 text-[0.92em]">{symbol === '°' ? symbol : ` ${symbol}`}</span>
      )}
    </span>
  )
}

// A short name with its sizes, such as 4 × 6.8 through.
export function Sizes({ of }: { of: { detail: string; sizes: Record<string, number> } }) {
  const { system } = useUnits()
  return <span className="n">{sizes(of.detail, of.sizes, system)}</span>
}

export function Sentence({ text, values }: { text: string; values: Record<string, Shown> }) {
  const { system } = useUnits()
  return <>{fill(text, values, system)}</>
}
