// Which values each kind of operation has, in the order they are asked for. Words and quantities only: rules are the core's.
export type FieldSpec = { name: string; label: string; quantity: string; empty?: string }

const STEP_DOWN: FieldSpec = { name: 'step_down_mm', label: 'Step down', quantity: 'length' }
const STEP_OVER: FieldSpec = { name: 'step_over_mm', label: 'Step over', quantity: 'length' }
const LEAVE: FieldSpec = { name: 'leave_mm', label: 'Leave', quantity: 'length' }
const PAST: FieldSpec = { name: 'past_mm', label: 'Past the bottom', quantity: 'length' }

const PASSES: FieldSpec = { name: 'passes', label: 'Passes', quantity: 'count' }
const DEPTH: FieldSpec = { name: 'depth_mm', label: 'Depth', quantity: 'length' }
const SIZE: FieldSpec = { name: 'size_mm', label: 'Size', quantity: 'length' }
const MOUTH: FieldSpec = { name: 'mouth_diameter_mm', label: 'Mouth Ø', quantity: 'length' }
const A_TURN: FieldSpec = { name: 'step_down_mm', label: 'Down a turn', quantity: 'length' }
const OVER: FieldSpec = { name: 'over_mm', label: 'Begins outside by', quantity: 'length' }
const A_SIDE: FieldSpec = { name: 'depth_mm', label: 'A side up to', quantity: 'length' }
const CUSP: FieldSpec = { name: 'cusp_mm', label: 'Cusp', quantity: 'size' }

export const KIND_NAME: Record<string, string> = {
  face: 'Face',
  rough_outside: 'Rough outside',
  rough_pocket: 'Rough pocket',
  finish_walls: 'Finish walls',
  finish_floor: 'Finish floor',
  drill: 'Drill',
  ream: 'Ream',
  tap: 'Tap',
  bore: 'Bore',
  chamfer: 'Break edges',
  spot: 'Spot',
  countersink: 'Countersink',
  counterbore: 'Counterbore',
  spot_face: 'Spot-face',
  back_chamfer: 'Chamfer behind',
  mill_hole: 'Mill hole',
  mill_thread: 'Mill thread',
  undercut: 'Undercut',
  engrave: 'Engrave',
  round_edge: 'Round edges',
  slope: 'Slope',
  turn_face: 'Face end',
  turn_rough: 'Rough turn',
  turn_finish: 'Finish turn',
  turn_groove: 'Groove',
  turn_thread: 'Thread',
  part_off: 'Part off',
}

// Turned operations keep a speed at the edge and feed per turn.
export const TURNED = new Set([
  'turn_face',
  'turn_rough',
  'turn_finish',
  'turn_groove',
  'turn_thread',
  'part_off',
])

export const FIELDS: Record<string, FieldSpec[]> = {
  face: [STEP_DOWN, { ...STEP_OVER, empty: '70 % Ø' }, LEAVE, OVER],
  rough_outside: [STEP_DOWN, STEP_OVER, LEAVE, OVER],
  rough_pocket: [
    STEP_DOWN,
    STEP_OVER,
    LEAVE,
    { name: 'leave_floor_mm', label: 'on the floor', quantity: 'length' },
    { name: 'ramp_deg', label: 'Ramp', quantity: 'angle' },
  ],
  finish_walls: [
    STEP_DOWN,
    { name: 'width_mm', label: 'Width', quantity: 'length' },
    PASSES,
    { name: 'chain', label: 'Cuts to measure', quantity: 'count' },
  ],
  finish_floor: [DEPTH, STEP_OVER],
  drill: [
    { name: 'peck_mm', label: 'Peck', quantity: 'length', empty: 'none' },
    PAST,
    { name: 'depth_mm', label: 'Depth', quantity: 'length', empty: 'drawn' },
  ],
  ream: [PAST, { name: 'depth_mm', label: 'Depth', quantity: 'length', empty: 'drawn' }],
  tap: [DEPTH],
  bore: [{ name: 'width_mm', label: 'Width', quantity: 'length' }, PAST],
  chamfer: [SIZE, { name: 'below_mm', label: 'Tip below', quantity: 'length' }],
  spot: [MOUTH],
  countersink: [
    MOUTH,
    { name: 'ball_diameter_mm', label: 'Ball Ø', quantity: 'length', empty: 'none' },
  ],
  counterbore: [{ name: 'diameter_mm', label: 'Opens to Ø', quantity: 'length' }, DEPTH, A_TURN],
  spot_face: [{ name: 'diameter_mm', label: 'Seat Ø', quantity: 'length' }, DEPTH, A_TURN],
  back_chamfer: [SIZE, { name: 'below_mm', label: 'Edge below', quantity: 'length' }],
  mill_hole: [
    { name: 'diameter_mm', label: 'To Ø', quantity: 'size', empty: 'drawn' },
    { name: 'from_diameter_mm', label: 'Open already Ø', quantity: 'length' },
    A_TURN,
    LEAVE,
    PAST,
    { name: 'depth_mm', label: 'Depth', quantity: 'length', empty: 'drawn' },
  ],
  mill_thread: [
    { name: 'major_mm', label: 'Thread Ø', quantity: 'size' },
    { name: 'pitch_mm', label: 'Pitch', quantity: 'size' },
    DEPTH,
    PASSES,
    { name: 'spring_passes', label: 'Spring passes', quantity: 'count' },
    { name: 'taper_per_mm', label: 'Taper on Ø', quantity: 'number' },
  ],
  undercut: [
    DEPTH,
    { name: 'width_mm', label: 'Under the edge by', quantity: 'length' },
    PASSES,
    { name: 'past_mm', label: 'Past the ends', quantity: 'length', empty: 'auto' },
  ],
  engrave: [
    { name: 'depth_mm', label: 'Depth', quantity: 'size', empty: '–' },
    { name: 'width_mm', label: 'or width', quantity: 'size', empty: '–' },
  ],
  round_edge: [{ name: 'radius_mm', label: 'Radius', quantity: 'length' }, CUSP],
  slope: [
    { name: 'size_mm', label: 'Wide on the face', quantity: 'length' },
    { name: 'angle_deg', label: 'From the face', quantity: 'angle' },
    CUSP,
  ],
  turn_face: [A_SIDE, LEAVE, OVER],
  turn_rough: [A_SIDE, LEAVE, { name: 'leave_face_mm', label: 'on shoulders', quantity: 'length' }],
  turn_finish: [{ name: 'width_mm', label: 'Was left', quantity: 'size' }, PASSES],
  turn_groove: [{ name: 'step_mm', label: 'Step aside', quantity: 'size', empty: 'auto' }],
  turn_thread: [
    { name: 'diameter_mm', label: 'Thread Ø', quantity: 'size' },
    { name: 'pitch_mm', label: 'Pitch', quantity: 'size' },
    { name: 'starts', label: 'Starts', quantity: 'count' },
    PASSES,
    { name: 'spring_passes', label: 'Spring passes', quantity: 'count' },
    { name: 'run_in_mm', label: 'Run-in', quantity: 'length', empty: 'auto' },
  ],
  part_off: [],
}

// Either of two values is given: typing one empties the other.
export const EITHER: Record<string, Record<string, string>> = {
  engrave: { depth_mm: 'width_mm', width_mm: 'depth_mm' },
}

export type PickSpec = { name: string; label: string; options: { value: string; label: string }[] }
const pick = (name: string, label: string, ...options: [string, string][]): PickSpec => ({
  name,
  label,
  options: options.map(([value, words]) => ({ value, label: words })),
})

// What is chosen from a few words instead of typed.
export const PICKS: Record<string, PickSpec[]> = {
  face: [pick('ways', 'Cut', ['both', 'both ways'], ['one', 'one way'])],
  rough_pocket: [
    pick(
      'enter',
      'Get down',
      ['ramp', 'by a ramp'],
      ['helix', 'on a helix'],
      ['hole', 'into a drilled hole'],
      ['plunge', 'straight down'],
    ),
  ],
  finish_walls: [
    pick('lead', 'Come in', ['straight', 'straight'], ['angle', 'at 45°'], ['arc', 'on an arc']),
  ],
  undercut: [
    pick('equal', 'Each pass takes', ['load', 'the same load'], ['step', 'the same step']),
  ],
  mill_thread: [
    pick('hand', 'Hand', ['right', 'right'], ['left', 'left']),
    pick('cuts', 'Cut', ['up', 'from the bottom up'], ['down', 'from the top down']),
  ],
  slope: [
    pick(
      'axes',
      'Tool stands',
      ['upright', 'upright'],
      ['locked', 'tilted, axes locked'],
      ['live', 'tilted, axes live'],
    ),
  ],
  turn_thread: [
    pick('hand', 'Hand', ['right', 'right'], ['left', 'left']),
    pick('towards', 'Run', ['chuck', 'towards the chuck'], ['tail', 'away from the chuck']),
    pick('ends', 'Ends', ['relief', 'in a relief'], ['pulled', 'pulled out']),
  ],
}
export const PLACE_PICKS: Record<string, PickSpec[]> = {
  profile: [pick('on.side', 'Turn', ['outside', 'outside'], ['inside', 'inside'])],
  lines: [
    pick('on.tool_side', 'Tool', ['left', 'left of the line'], ['right', 'right of the line']),
  ],
}

export const PLACE_FIELDS: Record<string, FieldSpec[]> = {
  outside: [{ name: 'on.depth_mm', label: 'Down to', quantity: 'length' }],
  rectangle: [
    { name: 'on.x_mm', label: 'Middle X', quantity: 'length' },
    { name: 'on.y_mm', label: 'Y', quantity: 'length' },
    { name: 'on.length_mm', label: 'Length X', quantity: 'length' },
    { name: 'on.width_mm', label: 'Width Y', quantity: 'length' },
    { name: 'on.corner_radius_mm', label: 'Corner', quantity: 'length' },
    { name: 'on.top_mm', label: 'Top Z', quantity: 'length' },
    { name: 'on.depth_mm', label: 'Depth', quantity: 'length' },
  ],
  points: [
    { name: 'on.diameter_mm', label: 'Hole Ø', quantity: 'length' },
    { name: 'on.top_mm', label: 'Top Z', quantity: 'length' },
    { name: 'on.depth_mm', label: 'Depth', quantity: 'length' },
  ],
  plane: [
    { name: 'on.z_mm', label: 'At Z', quantity: 'length' },
    { name: 'on.to_diameter_mm', label: 'In to Ø', quantity: 'length' },
  ],
  profile: [],
  groove: [
    { name: 'on.z_mm', label: 'From Z', quantity: 'length' },
    { name: 'on.width_mm', label: 'Wide', quantity: 'length' },
    { name: 'on.diameter_mm', label: 'Bottom Ø', quantity: 'length' },
  ],
  ring: [
    { name: 'on.z_mm', label: 'Face at Z', quantity: 'length' },
    { name: 'on.outer_diameter_mm', label: 'Outer Ø', quantity: 'length' },
    { name: 'on.width_mm', label: 'Wide', quantity: 'length' },
    { name: 'on.depth_mm', label: 'Deep', quantity: 'length' },
  ],
  stretch: [
    { name: 'on.z_mm', label: 'From Z', quantity: 'length' },
    { name: 'on.length_mm', label: 'Long', quantity: 'length' },
  ],
  top: [],
  features: [],
  lines: [{ name: 'on.top_mm', label: 'Top Z', quantity: 'length' }],
  text: [
    { name: 'on.x_mm', label: 'Starts at X', quantity: 'length' },
    { name: 'on.y_mm', label: 'Y', quantity: 'length' },
    { name: 'on.top_mm', label: 'Top Z', quantity: 'length' },
    { name: 'on.height_mm', label: 'High', quantity: 'length' },
    { name: 'on.angle_deg', label: 'Turned', quantity: 'angle' },
  ],
}

export function valueAt(record: Record<string, unknown>, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((at, name) => (at as Record<string, unknown> | undefined)?.[name], record)
}
