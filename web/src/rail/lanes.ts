import type { SetupResult } from '../api/client'

const GAP = 3

// Where an operation's block lies between top and bottom: all of it, or the lane of its station.
export function laneOf(
  setup: Pick<SetupResult, 'stations'>,
  station: string,
  top: number,
  height: number,
): { y: number; high: number; shared: boolean } {
  const count = setup.stations.length
  if (count < 2) return { y: top, high: height, shared: false }
  const lane = Math.max(
    0,
    setup.stations.findIndex((each) => each.id === station),
  )
  const high = (height - GAP * (count - 1)) / count
  return { y: top + lane * (high + GAP), high, shared: true }
}
