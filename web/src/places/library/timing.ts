import type { components } from '../../api/schema'

export type Timing = components['schemas']['TimingOut']
export type Fit = components['schemas']['FitOut']
export type Value = Fit['values'][number]

export const LEAST_RUNS = 4

// What a value is called, and how it is shown.
export const CALLED: Record<string, { label: string; quantity: string; after: string }> = {
  rapid_x: { label: 'Rapid X', quantity: 'feed', after: '' },
  rapid_y: { label: 'Rapid Y', quantity: 'feed', after: '' },
  rapid_z: { label: 'Rapid Z', quantity: 'feed', after: '' },
  acceleration_x: { label: 'Acceleration X', quantity: 'number', after: 'mm/s²' },
  acceleration_y: { label: 'Acceleration Y', quantity: 'number', after: 'mm/s²' },
  acceleration_z: { label: 'Acceleration Z', quantity: 'number', after: 'mm/s²' },
  jerk_s: { label: 'To full acceleration', quantity: 'number', after: 's' },
  corner_mm: { label: 'Corners are cut by', quantity: 'length', after: '' },
  block_s: { label: 'A block of the control', quantity: 'number', after: 's' },
  start_s: { label: 'Spindle to its highest speed', quantity: 'number', after: 's' },
  change_s: { label: 'Tool change, chip to chip', quantity: 'number', after: 's' },
  code_s: { label: 'A code, such as coolant on', quantity: 'number', after: 's' },
  turn_deg_s: { label: 'The axis that turns the work', quantity: 'number', after: '°/s' },
  clamp_s: { label: 'Its clamp, off and on', quantity: 'number', after: 's' },
  pallet_s: { label: 'Pallets changed', quantity: 'number', after: 's' },
  probe_s: { label: 'A place probed', quantity: 'number', after: 's' },
  bar_s: { label: 'The bar fed on', quantity: 'number', after: 's' },
}

// What a value decides, and which runs tell it.
export const DOES: Record<string, { decides: string; told: string }> = {
  rapid_x: { decides: 'long ways past the work', told: 'the long way along X' },
  rapid_y: { decides: 'long ways past the work', told: 'the long way along Y' },
  rapid_z: { decides: 'up and down between cuts', told: 'the long way along Z' },
  acceleration_x: {
    decides: 'ways of some centimetres, corners',
    told: 'the middle and short ways',
  },
  acceleration_y: {
    decides: 'ways of some centimetres, corners',
    told: 'the middle and short ways',
  },
  acceleration_z: { decides: 'pecks and retracts', told: 'the middle and short ways' },
  jerk_s: { decides: 'how softly every move begins and ends', told: 'the short ways' },
  corner_mm: { decides: 'how slow a corner is taken at feed', told: 'the square, the 24 sides' },
  block_s: { decides: 'curves of many tiny moves', told: 'the tiny blocks' },
  start_s: { decides: 'every start and change of speed', told: 'the spindle' },
  change_s: { decides: 'every change of tool', told: 'the change from chip to chip' },
  code_s: { decides: 'coolant, clamps and doors', told: 'coolant on and off' },
  turn_deg_s: { decides: 'every turn of the work', told: 'the far turn' },
  clamp_s: { decides: 'every turn of the work, however small', told: 'the near turn' },
  pallet_s: { decides: 'every pallet', told: 'the change of pallets' },
  probe_s: { decides: 'zeros found on every part', told: 'the place probed' },
  bar_s: { decides: 'every part from a bar', told: 'the bar fed on' },
}

export const called = (name: string) => CALLED[name]?.label ?? name

const UNITS: Record<string, string> = { feed: 'mm/min', length: 'mm' }
export const unitOf = (name: string) =>
  CALLED[name]?.after || UNITS[CALLED[name]?.quantity ?? ''] || ''

// Three figures, without the noise behind them.
export const plainly = (value: number) =>
  Number(value.toPrecision(3)).toLocaleString('en', { maximumFractionDigits: 5 })

// Where a ratio lies on a scale from a third to three times, 0 to 1.
const MOST = Math.log(3)
export const onScale = (ratio: number) =>
  (Math.min(Math.max(Math.log(ratio), -MOST), MOST) + MOST) / (2 * MOST)

// Runs that have a time, as they are sent.
export const timesOf = (typed: Record<string, number | null>) =>
  Object.entries(typed).flatMap(([run, seconds]) => (seconds ? [{ run, seconds }] : []))

const kept = (key: string) => `times of ${key}`

// What was typed and is in no record yet stays while the browser does.
export function typedOf(key: string): Record<string, number | null> {
  try {
    return JSON.parse(sessionStorage.getItem(kept(key)) ?? '{}') as Record<string, number | null>
  } catch {
    return {}
  }
}

export function keepTyped(key: string, typed: Record<string, number | null> | null): void {
  try {
    if (typed) sessionStorage.setItem(kept(key), JSON.stringify(typed))
    else sessionStorage.removeItem(kept(key))
  } catch {
    // a browser that keeps nothing
  }
}
