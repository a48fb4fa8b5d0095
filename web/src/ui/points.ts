import { parse } from './entry'
import { type System, trimmed, unit } from './format'

export type Read = { ok: true; value: number[][] } | { ok: false; sentence: string }

const DIGITS: Record<System, number> = { metric: 4, inch: 5 }
const PER: Record<System, number> = { metric: 1, inch: 25.4 }

// Places as they are typed in the unit of the page: X, Y; X, Y.
export const written = (places: number[][], system: System) =>
  places
    .map((place) =>
      place
        .map((each) => trimmed((each / PER[system]).toFixed(DIGITS[system])).replace(/^-0$/, '0'))
        .join(', '),
    )
    .join('; ')

// Each number goes through the one entry parser: it may carry a unit of its own; bare it is in the page's.
// Within a place numbers are parted by a comma and a blank, or by blanks alone, so that 12,5 can be a number.
export function placesOf(text: string, field: string, system: System, least = 1): Read {
  const bare = unit('length', system)
  const found: number[][] = []
  for (const part of text
    .split(';')
    .map((each) => each.trim())
    .filter(Boolean)) {
    const numbers = split(part)
    if (numbers.length !== 2)
      return {
        ok: false,
        sentence: `${field}: “${part}” is not two numbers; write them as 10, 20 with ; between places.`,
      }
    const place: number[] = []
    for (const each of numbers) {
      const read = parse(each, 'length', field, bare)
      if (!read.ok) return { ok: false, sentence: read.sentence }
      place.push(Number(read.value.toFixed(6)))
    }
    found.push(place)
  }
  if (found.length < least)
    return {
      ok: false,
      sentence: `${field}: ${found.length === 0 ? 'nothing' : 'one place'} is not enough; write ${least === 1 ? 'one place' : `${least} places`} or more, in ${bare}, such as 10, 20; 30, 20.`,
    }
  return { ok: true, value: found }
}

function split(part: string): string[] {
  const spaced = part
    .split(/,\s+|\s+,\s*/)
    .map((each) => each.trim())
    .filter(Boolean)
  if (spaced.length === 2) return spaced
  const plain = part.split(',').map((each) => each.trim())
  return plain.length === 2
    ? plain
    : part
        .split(/\s{1,}(?=[-+\d.])/)
        .map((each) => each.trim())
        .filter(Boolean)
}
