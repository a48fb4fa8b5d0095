import type { Evaluation } from '../api/client'
import type { Label } from '../stage/types'
import { show, type System } from '../ui/format'
import { shared } from '../ui/shared'

const MOST = 12 // more words than that hide the drawing

// Where what still stands is, in the words of the list: in part coordinates, or where a pose (3 by 4) puts it.
export function standingLabels(left: Evaluation['left'], system: System, pose?: number[]): Label[] {
  return left
    .flatMap((each) => each.at.map((at) => ({ at, thick: each.thick_mm })))
    .slice(0, MOST)
    .map(({ at, thick }) => ({
      at: pose ? [0, 1, 2].map((row) => along(pose.slice(4 * row), at)) : at,
      words: `◌ ${show(thick, 'length', system)}`,
      dx: 10,
      dy: -8,
    }))
}

const along = (row: number[], [x, y, z]: number[]) =>
  row[0]! * x! + row[1]! * y! + row[2]! * z! + row[3]!

// Is the list of it open? The stage shows then where it is.
export const standingShown = shared(false)
