import type { Evaluation } from '../../api/client'
import type { components } from '../../api/schema'
import { clock } from '../../ui/format'

export type Kind = 'cut' | 'link' | 'move' | 'change' | 'machine' | 'hand'

// What happens in a cycle, gathered under what somebody could do about it.
const OF: Record<string, Kind> = {
  cut: 'cut',
  link: 'link',
  move: 'move',
  rapid: 'move',
  settle: 'move',
  wait: 'move',
  index: 'move',
  change: 'change',
  start: 'change',
  pallet: 'machine',
  bar: 'machine',
  probe: 'machine',
  range: 'hand',
  stop: 'hand',
}

export const KINDS: { kind: Kind; label: string; fill: string }[] = [
  { kind: 'cut', label: 'fed through the work', fill: 'fill-mark' },
  { kind: 'link', label: 'fed past it', fill: 'fill-scribe-dim' },
  { kind: 'move', label: 'moves and waits', fill: 'fill-hair-strong' },
  { kind: 'change', label: 'tool changes and starts', fill: 'fill-ink-3' },
  { kind: 'machine', label: 'pallet, bar and probe', fill: 'fill-quiet' },
  { kind: 'hand', label: 'by hand', fill: 'fill-paper' },
]

export type Each = components['schemas']['SavingOut']['each'][number]
const LEAST_S = 0.05

// Operations with another tool that take longer or less long with it, and how many take as long.
export function apart(each: Each[]) {
  const others = each.filter((one) => Math.abs(one.seconds) >= LEAST_S)
  return { others, alike: each.length - others.length }
}

const STANDING: Record<string, string> = { bar: 'Bar fed', probe: 'Zero probed' }

export type Row = {
  key: string
  setup: string
  operation: string
  label: string
  title: string
  detail: { detail: string; sizes: Record<string, number> } | null
  seconds: number
  by: Record<Kind, number>
}

const none = (): Record<Kind, number> => ({
  cut: 0,
  link: 0,
  move: 0,
  change: 0,
  machine: 0,
  hand: 0,
})

// Of one part: its share of every cycle it goes through, operation by operation, and what is done by hand between.
export function rowsOf(evaluation: Evaluation): Row[] {
  const rows: Row[] = []
  for (const setup of evaluation.setups) {
    const found = new Map<string, Row>()
    for (const event of setup.events) {
      const op = setup.operations.find((each) => each.id === event.operation)
      const key = op?.id ?? `${setup.id} ${event.kind}`
      const row = found.get(key) ?? {
        key,
        setup: setup.id,
        operation: op?.id ?? '',
        label: op ? `${setup.number}/${op.number}` : `${setup.number}`,
        title: op?.title ?? STANDING[event.kind] ?? 'Pallet changed',
        detail: op ? { detail: op.detail, sizes: op.sizes } : null,
        seconds: 0,
        by: none(),
      }
      const seconds = event.seconds / Math.max(setup.parts, 1)
      row.by[OF[event.kind] ?? 'move'] += seconds
      row.seconds += seconds
      found.set(key, row)
    }
    rows.push(...found.values())
  }
  if (evaluation.handling_s > 0) {
    // what is loaded on another pallet while the machine cuts takes no time of its own
    const inputs = evaluation.figures?.['plan.one_part']?.[2] as [string, number][] | undefined
    const meanwhile = inputs?.find(([name]) => name === 'meanwhile')?.[1] ?? 0
    const alone = Math.max(0, evaluation.handling_s - meanwhile)
    const some = meanwhile > 0.05
    rows.push({
      key: 'handling',
      setup: '',
      operation: '',
      label: '',
      title: some ? 'Put in and taken out, the rest meanwhile' : 'Put in and taken out',
      detail: null,
      seconds: alone,
      by: { ...none(), hand: alone },
    })
  }
  return rows
}

export function totalsOf(rows: Row[]): Record<Kind, number> {
  const sum = none()
  for (const row of rows) for (const { kind } of KINDS) sum[kind] += row.by[kind]
  return sum
}

export const longest = (rows: Row[]) => [...rows].sort((a, b) => b.seconds - a.seconds)

// Days from Monday to Friday after a day and up to another, both as year-month-day; none where that is past.
export function workingDays(today: string, due: string): number {
  const at = new Date(`${today}T12:00:00Z`)
  const end = new Date(`${due}T12:00:00Z`)
  let days = 0
  while (at < end && days < 5000) {
    at.setUTCDate(at.getUTCDate() + 1)
    if (at.getUTCDay() % 6 !== 0) days += 1
  }
  return days
}

// Seconds there are for each part where so many working days of a shift do for all; none where they are over.
export const taktOf = (days: number, shiftHours: number, quantity: number): number | null =>
  days > 0 ? (days * shiftHours * 3600) / Math.max(quantity, 1) : null

// Seconds as they are read: tenths of short ones, a clock for long ones.
export const seconds = (value: number) =>
  value < 59.95
    ? `${value.toFixed(1)} s`
    : `${Math.floor(Math.round(value) / 60)}:${String(Math.round(value) % 60).padStart(2, '0')}`

// Of a batch: minutes and seconds, or hours and minutes.
export const hours = (seconds: number) => {
  const minutes = Math.round(seconds / 60)
  return minutes < 60
    ? clock(seconds)
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}
