import type { OperationResult } from '../../api/client'

type Cut = Pick<OperationResult, 'id' | 'station' | 'turned'>
export type Heading = { station: number; side: string; index: string; count: number }

const sideOf = (op: Cut) => op.turned?.side ?? ''
const indexOf = (op: Cut) => (sideOf(op) ? (op.turned?.index ?? '') : '')
const alike = (a: Cut, b: Cut) => a.station === b.station && indexOf(a) === indexOf(b)

// Where operations of one station that are turned to the tool alike begin, two or more of them: by the id of the
// first. A setup of one station from one side has none; what comes first of it as it stands needs none.
export function headings(operations: Cut[], stations: string[]): Map<string, Heading> {
  const found = new Map<string, Heading>()
  const upright = operations.some(sideOf) ? 'as it stands' : '' // where no side is turned nothing tells it apart
  let from = 0
  for (let k = 1; k <= operations.length; k++) {
    const first = operations[from]!
    if (k < operations.length && alike(first, operations[k]!)) continue
    const count = k - from
    const tells = stations.length > 1 || from > 0 || sideOf(first) !== ''
    const others = count < operations.length
    if (count > 1 && tells && (others || stations.length > 1)) {
      const station = stations.length > 1 ? stations.indexOf(first.station) + 1 : 0
      found.set(first.id, { station, side: sideOf(first) || upright, index: indexOf(first), count })
    }
    from = k
  }
  return found
}
