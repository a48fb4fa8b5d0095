// Which values each kind of operation has, in the order they are asked for. Words and quantities only: rules are the core's.
export type FieldSpec = { name: string; label: string; quantity: string; empty?: string }

const STEP_DOWN: FieldSpec = { name: 'step_down_mm', label: 'Step down', quantity: 'length' }
const STEP_OVER: FieldSpec = { name: 'step_over_mm', label: 'Step over', quantity: 'length' }
const LEAVE: FieldSpec = { name: 'leave_mm', label: 'Leave', quantity: 'length' }
const PAST: FieldSpec = { name: 'past_mm', label: 'Past the bottom', quantity: 'length' }

export const KIND_NAME: Record<string, string> = {
  face: 'Face', rough_outside: 'Rough outside', rough_pocket: 'Rough pocket', finish_walls: 'Finish walls', finish_floor: 'Finish floor', drill: 'Drill', ream: 'Ream', tap: 'Tap', bore: 'Bore', chamfer: 'Break edges',
}

export const FIELDS: Record<string, FieldSpec[]> = {
  face: [STEP_DOWN, { ...STEP_OVER, empty: '70 % Ø' }, LEAVE],
  rough_outside: [STEP_DOWN, STEP_OVER, LEAVE],
  rough_pocket: [STEP_DOWN, STEP_OVER, LEAVE, { name: 'leave_floor_mm', label: 'on the floor', quantity: 'length' }, { name: 'ramp_deg', label: 'Ramp', quantity: 'angle' }],
  finish_walls: [STEP_DOWN, { name: 'width_mm', label: 'Width', quantity: 'length' }, { name: 'passes', label: 'Passes', quantity: 'count' }],
  finish_floor: [{ name: 'depth_mm', label: 'Depth', quantity: 'length' }, STEP_OVER],
  drill: [{ name: 'peck_mm', label: 'Peck', quantity: 'length', empty: 'none' }, PAST, { name: 'depth_mm', label: 'Depth', quantity: 'length', empty: 'as drawn' }],
  ream: [PAST, { name: 'depth_mm', label: 'Depth', quantity: 'length', empty: 'as drawn' }],
  tap: [{ name: 'depth_mm', label: 'Depth', quantity: 'length' }],
  bore: [{ name: 'width_mm', label: 'Width', quantity: 'length' }, PAST],
  chamfer: [{ name: 'size_mm', label: 'Size', quantity: 'length' }, { name: 'below_mm', label: 'Tip below', quantity: 'length' }],
}

export const PLACE_FIELDS: Record<string, FieldSpec[]> = {
  outside: [{ name: 'on.depth_mm', label: 'Down to', quantity: 'length' }],
  rectangle: [
    { name: 'on.x_mm', label: 'Middle X', quantity: 'length' }, { name: 'on.y_mm', label: 'Y', quantity: 'length' }, { name: 'on.length_mm', label: 'Length X', quantity: 'length' },
    { name: 'on.width_mm', label: 'Width Y', quantity: 'length' }, { name: 'on.corner_radius_mm', label: 'Corner', quantity: 'length' }, { name: 'on.top_mm', label: 'Top Z', quantity: 'length' },
    { name: 'on.depth_mm', label: 'Depth', quantity: 'length' },
  ],
  points: [{ name: 'on.diameter_mm', label: 'Hole Ø', quantity: 'length' }, { name: 'on.top_mm', label: 'Top Z', quantity: 'length' }, { name: 'on.depth_mm', label: 'Depth', quantity: 'length' }],
  top: [], features: [],
}

export function valueAt(record: Record<string, unknown>, path: string): unknown {
  return path.split('.').reduce<unknown>((at, name) => (at as Record<string, unknown> | undefined)?.[name], record)
}
