import { describe, expect, it } from 'vitest'
import { chain, lanes, type Reason, roomOf } from '../src/places/order/reasons'

const because = (first: string, then: string): Reason => ({
  first,
  then,
  kind: 'stock',
  said: { text: '', values: {} },
  direct: true,
})
const ORDER = ['a', 'b', 'c', 'd', 'e']

describe('where an operation could stand', () => {
  it('goes up to what has to come before it and down to what comes after', () => {
    const reasons = [because('a', 'c'), because('c', 'e')]
    expect(roomOf(reasons, ORDER, 'c')).toEqual([1, 3])
    expect(roomOf(reasons, ORDER, 'b')).toEqual([0, 4])
  })

  it('stops at what leads there over others', () => {
    const reasons = [because('a', 'b'), because('b', 'd')]
    expect(roomOf(reasons, ORDER, 'd')).toEqual([2, 4])
    expect(roomOf(reasons, ['b', 'a', 'd'], 'd')).toEqual([2, 2])
  })
})

describe('why one comes after another', () => {
  it('is the shortest way of reasons', () => {
    const reasons = [because('a', 'b'), because('b', 'c'), because('a', 'd'), because('d', 'c')]
    expect(chain([...reasons, because('a', 'c')], 'a', 'c')).toHaveLength(1)
    expect(chain(reasons, 'a', 'c').map((each) => each.then)).toEqual(['b', 'c'])
  })

  it('is nothing where none leads there', () => {
    expect(chain([because('a', 'b')], 'b', 'a')).toEqual([])
  })
})

describe('lanes', () => {
  it('never lets two that pass by the same rows share one', () => {
    const reasons = [because('a', 'c'), because('b', 'd'), because('a', 'e'), because('d', 'e')]
    const lane = lanes(reasons, ORDER)
    const at = (k: number) => lane.get(reasons[k] as Reason)
    expect(new Set([at(0), at(1), at(2)]).size).toBe(3)
    expect(at(3)).toBe(0)
  })
})
