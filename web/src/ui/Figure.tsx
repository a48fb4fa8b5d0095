import { useUnits } from '../app/units'
import { fill, number, type Shown, show, unit } from './format'

// A number with its unit in the chosen system, the unit a little quieter.
export function Figure({ value, quantity, bare = false, trim = false }: { value: number | null | undefined; quantity: string; bare?: boolean; trim?: boolean }) {
  const { system } = useUnits()
  if (value === null || value === undefined) return <span className="n">–</span>
  const symbol = unit(quantity, system)
  if (symbol === '×') return <span className="n">{show(value, quantity, system)}</span>
  return (
    <span className="n whitespace-nowrap">
      {trim ? trimmed(number(value, quantity, system)) : number(value, quantity, system)}
      {!bare && symbol && <span className="text-ink-2 text-[0.92em]">{symbol === '°' ? symbol : ` ${symbol}`}</span>}
    </span>
  )
}

// Sizes somebody chose are shown as they were chosen: 26, 1.2, 0.15.
function trimmed(digits: string): string {
  return digits.includes('.') ? digits.replace(/\.?0+$/, '') : digits
}

export function Sentence({ text, values }: { text: string; values: Record<string, Shown> }) {
  const { system } = useUnits()
  return <>{fill(text, values, system)}</>
}
