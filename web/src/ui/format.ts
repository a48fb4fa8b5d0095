// The one formatter of figures in the browser; machining/quantities/display.py is its twin and shares its test vectors.
export type System = 'metric' | 'inch'
type Row = { unit: string; per: number; digits: number }
export type DisplayTable = Record<string, Record<System, Row>>

let table: DisplayTable = {}
export function setDisplay(next: DisplayTable) {
  table = next
}

// Round half up on the decimal text, as the core does, not on the binary value.
export function fixed(value: number, digits: number): string {
  const text = toPlain(value)
  const negative = text.startsWith('-')
  const [whole = '0', part = ''] = text.replace('-', '').split('.')
  const kept = (whole + part.slice(0, digits).padEnd(digits, '0')).replace(/^0+(?=\d)/, '')
  const up = (part[digits] ?? '0') >= '5'
  let number = BigInt(kept) + (up ? 1n : 0n)
  const zero = number === 0n
  if (number < 0n) number = -number
  let out = number.toString().padStart(digits + 1, '0')
  if (digits > 0) out = out.slice(0, -digits) + '.' + out.slice(-digits)
  return (negative && !zero ? '-' : '') + out
}

function toPlain(value: number): string {
  const text = String(value)
  if (!/e/i.test(text)) return text
  return Math.abs(value) >= 1e21 ? BigInt(value).toString() : value.toFixed(20)
}

export function clock(seconds: number): string {
  const whole = Number(fixed(seconds, 0))
  if (whole >= 3600)
    return `${Math.floor(whole / 3600)} h ${String(Math.floor((whole % 3600) / 60)).padStart(2, '0')}`
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

export function number(value: number, quantity: string, system: System): string {
  if (quantity === 'time') return clock(value)
  const row = table[quantity]?.[system]
  if (!row) return String(value)
  return fixed(value / row.per, row.digits)
}

export function unit(quantity: string, system: System): string {
  return quantity === 'time' ? '' : (table[quantity]?.[system].unit ?? '')
}

export function show(value: number, quantity: string, system: System): string {
  const digits = number(value, quantity, system)
  const symbol = unit(quantity, system)
  if (symbol === '×') return `×${digits}`
  return digits + (symbol === '' || symbol === '°' ? '' : ' ') + symbol
}

// At least four significant digits, for results that are read to be reckoned with.
export function precise(value: number, quantity: string, system: System): string {
  const row = table[quantity]?.[system]
  if (!row || quantity === 'time' || quantity === 'count') return show(value, quantity, system)
  const scaled = value / row.per
  const digits =
    scaled === 0
      ? row.digits
      : Math.max(row.digits, Math.min(9, 3 - Math.floor(Math.log10(Math.abs(scaled)))))
  const text = fixed(scaled, digits)
  return row.unit === '×'
    ? `×${text}`
    : text + (row.unit === '' || row.unit === '°' ? '' : ' ') + row.unit
}

// A figure for an entry field: as many digits as it has, up to the core's thousandth.
export function plain(value: number, quantity: string, system: System): string {
  const per = table[quantity]?.[system].per ?? 1
  return String(Number((value / per).toFixed(system === 'inch' ? 5 : 4)))
}

export function trimmed(digits: string): string {
  return digits.includes('.') ? digits.replace(/\.?0+$/, '') : digits
}

// A chosen size as it was chosen: 26, 1.2, 0.15; in inches to the thousandth.
export const size = (value: number, system: System) =>
  trimmed(number(value, system === 'metric' ? 'size' : 'length', system))

export function sizes(template: string, lengths: Record<string, number>, system: System): string {
  return template.replace(/\{(\w+)\}/g, (_, name: string) => size(lengths[name] ?? 0, system))
}

export type Shown = { value: number | string; quantity: string }
export function fill(sentence: string, values: Record<string, Shown>, system: System): string {
  return sentence.replace(/\{(\w+)\}/g, (_, name: string) => {
    const shown = values[name]
    if (!shown) return name
    return typeof shown.value === 'number' && shown.quantity
      ? show(shown.value, shown.quantity, system)
      : String(shown.value)
  })
}
