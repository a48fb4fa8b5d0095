// Reads what a person types; machining/quantities/entry.py is its twin and shares its test vectors.
export type Units = Record<string, { base: string; units: Record<string, number> }>

let units: Units = {}
let drills: Record<string, number> = {}
export function setUnits(next: Units, nextDrills: Record<string, number>) {
  units = next
  drills = nextDrills
}

const NUMBER = String.raw`(?:\d+\.\d*|\.\d+|\d+)(?:[eE][+-]?\d+)?`
const AMOUNT = new RegExp(
  String.raw`^([+-]?)\s*(?:(\d+)\s*[-\s]\s*(\d+)\s*/\s*(\d+)|(${NUMBER})\s*/\s*(${NUMBER})|(${NUMBER}))\s*(.*)$`,
)

export type Entry = { ok: true; value: number } | { ok: false; sentence: string }

export function parse(
  text: string,
  quantity: string,
  field: string,
  bare?: string,
  drill = false,
): Entry {
  const known = units[quantity] ?? { base: '', units: { '': 1 } }
  const raw = text.trim()
  if (drill && quantity === 'length') {
    const hash = /^#\s*(\d{1,2})$/.exec(raw)
    const size = hash
      ? drills['#' + Number(hash[1])]
      : raw.length === 1
        ? drills[raw.toUpperCase()]
        : undefined
    if (size !== undefined) return { ok: true, value: size * 25.4 }
  }
  if (quantity === 'time') {
    const clock = /^(?:(\d+):)?(\d{1,3}):([0-5]?\d(?:\.\d*)?)$/.exec(raw)
    if (clock)
      return {
        ok: true,
        value: Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]),
      }
  }
  const plainly = decimalComma(raw)
  if (plainly === null)
    return {
      ok: false,
      sentence: `${field}: “${raw}” is not understood; write it with a point, or without a sign between the digits: with a comma it can be read as either.`,
    }
  const found = AMOUNT.exec(
    plainly.replace('⁄', '/').replace('″', '"').replace('′', "'").replace('−', '-'),
  )
  const refused: Entry = {
    ok: false,
    sentence: `${field}: ${raw === '' ? 'nothing' : `“${raw}”`} is not understood; write ${examples(quantity, drill)}.`,
  }
  if (!found) return refused
  const sign = found[1] === '-' ? -1 : 1
  const amount =
    found[2] !== undefined
      ? Number(found[2]) + Number(found[3]) / Number(found[4])
      : found[5] !== undefined
        ? Number(found[5]) / Number(found[6])
        : Number(found[7])
  const named = (found[8] ?? '').trim() || (bare ?? known.base)
  const counted = amount ? COUNTED[quantity]?.[named.toLowerCase()] : undefined
  if (counted !== undefined) return { ok: true, value: (sign * counted) / amount }
  const factor =
    named === known.base
      ? 1
      : (known.units[named] ?? folded(known.units)[named.toLowerCase().split(/\s+/).join(' ')])
  if (factor === undefined || !Number.isFinite(amount * factor)) return refused
  return { ok: true, value: sign * amount * factor }
}

// Units that count how many fit into a length.
const COUNTED: Record<string, Record<string, number>> = { pitch: { tpi: 25.4, 'threads/in': 25.4 } }

// 12,5 is 12.5; 1,000 could be a thousand, and is asked back: null.
function decimalComma(raw: string): string | null {
  const found = /(?<![\d.,])(\d*),(\d+)(?![\d.,])/.exec(raw)
  if (!found) return raw
  const [all, whole = '', part = ''] = found
  if (part.length === 3 && /[1-9]/.test(whole)) return null
  return raw.slice(0, found.index) + `${whole || '0'}.${part}` + raw.slice(found.index + all.length)
}

function folded(table: Record<string, number>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(table).map(([name, factor]) => [name.toLowerCase(), factor]),
  )
}

function examples(quantity: string, drill: boolean): string {
  if (quantity === 'length')
    return '12, 12 mm, 0.5 in, 3/8", 1-1/4 in or 10 thou' + (drill ? ', #21 or a letter drill' : '')
  if (quantity === 'pitch') return 'a pitch such as 1.25 mm, or 20 TPI'
  const known = units[quantity]
  if (!known?.base) return 'a plain number'
  const others = Object.keys(known.units)
    .filter((name) => name !== '' && name !== known.base)
    .slice(0, 2)
  return `a number, alone or with ${[known.base, ...others].join(' or ')}`
}
