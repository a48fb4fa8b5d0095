// What an operation turns to the tool: a side, a side turned on by an angle ("+x 30 z"), or what is slanted by its id.

export const sideOf = (aim: string) => aim.split(' ')[0] ?? ''

export const onBy = (aim: string) => Number(aim.split(' ')[1] ?? 0)

export const aimOf = (side: string, deg: number, about: string) =>
  Number(deg.toFixed(3)) ? `${side} ${Number(deg.toFixed(3))} ${about}` : side

// What the work turns under has no side.
export const isTurned = (kind: string) => kind.startsWith('turn_') || kind === 'part_off'
