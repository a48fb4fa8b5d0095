import type { Load } from './useLoad'

type Offset = Pick<
  Load['offsets'][number],
  'station' | 'position' | 'side' | 'at' | 'from_first' | 'code'
>

export const keyOf = (of: Offset) => `${of.station}:${of.position}:${of.side}`

// Offsets read from one of them; what is told from the first of its row stays so.
export function readFrom<T extends Offset>(rows: T[], key: string): T[] {
  const origin = rows.find((each) => keyOf(each) === key)?.at
  if (!origin) return rows
  return rows.map((each) =>
    each.at && !each.from_first
      ? { ...each, at: each.at.map((value, axis) => value - origin[axis]!) as typeof each.at }
      : each,
  )
}
