import { Matrix4, Vector3 } from 'three'
import type { SetupResult, StationResult } from '../../api/client'
import { matrixOf, rowsOf } from '../../stage/matrix'
import type { Copy, Label, Prism } from '../../stage/types'

const LEVEL = 0.999 // its Z and that of the one looked at are the same
type Box = { low: number[]; high: number[] }

// What stands there, of its clamps only those that are on, and the tailstock (0) where it is in: all
// where nobody says which.
export const standing = (station: StationResult, on?: number[]) =>
  station.bodies.filter((body) => {
    if (!on) return true
    if (body.role === 'centre') return on.includes(0)
    return !body.of?.startsWith('clamp ') || on.includes(Number(body.of.slice(6)))
  })

export const bodiesOf = (station: StationResult, on?: number[]): Prism[] =>
  standing(station, on).map((body) => ({
    corners: body.corners,
    low: body.bottom,
    high: body.top,
    axis: body.axis ?? 'z',
    of: 'jaw',
    turn: body.turn ?? null,
  }))

// All parts of a load but the one that is looked at, as they are then, in its frame.
export function copiesOf(
  plan: number,
  whole: SetupResult,
  seen: StationResult,
  operation: string | null,
): Copy[] {
  const here = seen.stands[0]
  if (!here) return []
  const back = matrixOf(here).invert()
  return whole.stations.flatMap((station): Copy[] => {
    const key = stockThen(whole, station, operation)
    const at = station.stands
      .slice(station.id === seen.id ? 1 : 0)
      .map((each) => rowsOf(new Matrix4().multiplyMatrices(back, matrixOf(each))))
    return at.length
      ? [
          {
            mesh: `/api/plans/${plan}/stock/${key}.glb`,
            prisms: bodiesOf(station),
            at,
            of: station,
          },
        ]
      : []
  })
}

// The number of each other that looks the same way, over its middle; of several stations with the station's before it.
export function numbersOf(whole: SetupResult, seen: StationResult): Label[] {
  const here = seen.stands[0]
  if (!here) return []
  const back = matrixOf(here).invert()
  return whole.stations.flatMap((station, s) =>
    station.stands.flatMap((each, k): Label[] => {
      const there = new Matrix4().multiplyMatrices(back, matrixOf(each))
      if (there.elements[10]! < LEVEL || each === here) return [] // there the zero is
      const [low, high] = [station.stock_low, station.stock_high]
      const top = new Vector3((low[0]! + high[0]!) / 2, (low[1]! + high[1]!) / 2, high[2]!)
      const words = whole.stations.length > 1 ? `${s + 1}·${k + 1}` : `${k + 1}`
      return [{ at: top.applyMatrix4(there).toArray(), words, dx: -4, dy: -8 }]
    }),
  )
}

// What they stand on, as it lies round the part that is looked at.
export function carrierOf(seen: StationResult): Prism[] {
  const [here, on] = [seen.stands[0], seen.on]
  if (!here || !on) return []
  const back = matrixOf(here).invert()
  const at = ([x = 0, z = 0]: number[], y: number) => new Vector3(x, y, z).applyMatrix4(back)
  const corners = on.corners.map((each) => at(each, 0)).map((each) => [each.x, each.z])
  const ends = [on.low, on.high].map((y) => at([0, 0], y).y)
  return [{ corners, low: Math.min(...ends), high: Math.max(...ends), axis: 'y', of: 'jaw' }]
}

// As large as all of it is.
export function around(box: Box, copies: Copy[]): Box {
  const [low, high] = [[...box.low], [...box.high]]
  for (const copy of copies)
    for (const each of copy.at)
      for (const corner of cornersOf(copy.of))
        new Vector3(...corner)
          .applyMatrix4(matrixOf(each))
          .toArray()
          .forEach((value, k) => {
            low[k] = Math.min(low[k]!, value)
            high[k] = Math.max(high[k]!, value)
          })
  return { low, high }
}

// The stock at a station when an operation has been done: after the last one of its own before that.
function stockThen(whole: SetupResult, station: StationResult, operation: string | null): string {
  if (!operation) return station.stock_key
  const until = whole.operations.findIndex((each) => each.id === operation)
  const done = whole.operations.slice(0, until + 1).filter((each) => each.station === station.id)
  return done.at(-1)?.stock_key ?? station.stock_key
}

function cornersOf({ stock_low: a, stock_high: b }: Copy['of']): [number, number, number][] {
  return [a[0]!, b[0]!].flatMap((x) =>
    [a[1]!, b[1]!].flatMap((y) => [a[2]!, b[2]!].map((z): [number, number, number] => [x, y, z])),
  )
}
