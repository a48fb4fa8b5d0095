import { describe, expect, it } from 'vitest'
import type { SetupResult, StationResult } from '../src/api/client'
import { around, carrierOf, copiesOf, numbersOf } from '../src/places/setups/wholeLoad'
import { laneOf } from '../src/rail/lanes'
import { turnedAlike } from '../src/stage/Copies'

const UPRIGHT = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0]
const at = (x: number, y: number, z: number, turn = UPRIGHT) =>
  turn.map((each, k) => (k === 3 ? x : k === 7 ? y : k === 11 ? z : each))
// a quarter turn about Y: what looked to Z looks to X
const RIGHT = [0, 0, 1, 0, 0, 1, 0, 0, -1, 0, 0, 0]

const station = (id: string, stands: number[][], more: Partial<StationResult> = {}) =>
  ({
    id,
    stands,
    on: null,
    bodies: [],
    stock_key: `${id}-first`,
    stock_low: [-10, -5, 0],
    stock_high: [10, 5, 20],
    ...more,
  }) as unknown as StationResult
const setup = (stations: StationResult[], operations: object[] = []) =>
  ({ stations, operations }) as unknown as SetupResult

describe('a whole load', () => {
  const first = station('a', [at(100, 0, 50), at(220, 0, 50)])
  const second = station('b', [at(100, -80, 50)])

  it('stands as it does, seen from the one that is looked at', () => {
    const [mine, other] = copiesOf(7, setup([first, second]), first, null)
    expect(mine!.at.map((each) => [each[3], each[7], each[11]])).toEqual([[120, 0, 0]])
    expect(other!.at.map((each) => [each[3], each[7], each[11]])).toEqual([[0, -80, 0]])
    expect(other!.mesh).toBe('/api/plans/7/stock/b-first.glb')
    const box = around({ low: [-10, -5, 0], high: [10, 5, 20] }, [mine!, other!])
    expect(box).toEqual({ low: [-10, -85, 0], high: [130, 5, 20] })
  })

  it('shows every station as far as it is when an operation is done', () => {
    const operations = [
      { id: 'o1', station: 'b', stock_key: 'b-1' },
      { id: 'o2', station: 'a', stock_key: 'a-1' },
      { id: 'o3', station: 'b', stock_key: 'b-2' },
    ]
    const whole = setup([first, second], operations)
    const meshes = (op: string | null) => copiesOf(1, whole, first, op).map((each) => each.mesh)
    expect(meshes('o2')).toEqual(['/api/plans/1/stock/a-1.glb', '/api/plans/1/stock/b-1.glb'])
    expect(meshes('o3')[1]).toBe('/api/plans/1/stock/b-2.glb')
  })

  it('numbers what looks to the tool, and not what looks aside', () => {
    const stone = station('a', [at(0, 0, 130), at(0, 80, 130), at(130, 0, 0, RIGHT)])
    expect(numbersOf(setup([stone]), stone).map(({ words }) => words)).toEqual(['2'])
    const both = setup([first, second])
    expect(numbersOf(both, first).map(({ words }) => words)).toEqual(['1·2', '2·1'])
  })

  it('draws at once what looks the same way', () => {
    const stone = station('a', [at(0, 0, 130), at(0, 80, 130), at(130, 0, 0, RIGHT)])
    const [copy] = copiesOf(1, setup([stone]), stone, null)
    expect(turnedAlike(copy!.at).map((each) => each.at.length)).toEqual([1, 1])
  })

  it('puts the tombstone under the part', () => {
    const corners = [
      [-130, -130],
      [130, -130],
      [130, 130],
      [-130, 130],
    ]
    const stone = station('a', [at(0, 20, 130)], { on: { corners, low: -300, high: 300 } })
    const [body] = carrierOf(stone)
    expect([body!.low, body!.high]).toEqual([-320, 280])
    expect(Math.max(...body!.corners.map((each) => each[1]!))).toBe(0)
  })
})

describe('lanes', () => {
  it('share the height of the rail', () => {
    const one = { stations: [station('a', [])] }
    expect(laneOf(one, 'a', 48, 32)).toEqual({ y: 48, high: 32, shared: false })
    const two = { stations: [station('a', []), station('b', [])] }
    expect(laneOf(two, 'a', 48, 32)).toEqual({ y: 48, high: 14.5, shared: true })
    expect(laneOf(two, 'b', 48, 32)).toEqual({ y: 65.5, high: 14.5, shared: true })
  })
})
