import { describe, expect, it } from 'vitest'
import type { Evaluation } from '../src/api/client'
import { FOLD_FROM, layOut, xOf } from '../src/rail/scale'
import { putIn, sharesOf } from '../src/rail/spent'

function plan(...setups: number[][]): Evaluation {
  return {
    setups: setups.map((times, k) => ({
      id: `s${k}`,
      cycle_s: times.reduce((sum, each) => sum + each + 4, 0),
      events: times.flatMap((_, i) =>
        i % 2 ? [] : [{ kind: 'change', operation: `s${k}o${i}`, seconds: 4 }],
      ),
      operations: times.map((time_s, i) => ({
        id: `s${k}o${i}`,
        time_s,
        times: 1,
        change_s: i % 2 ? 0 : 4,
      })),
    })),
  } as unknown as Evaluation
}

describe('the rail', () => {
  it('fills its width and no more', () => {
    const blocks = layOut(plan([30, 60, 120], [45, 20]), 900, 's0', () => 60)
    const last = blocks[blocks.length - 1]!
    expect(last.x + last.width).toBeLessThanOrEqual(900.5)
    expect(last.x + last.width).toBeGreaterThan(890)
  })
  it('keeps its blocks in order without overlap', () => {
    const blocks = layOut(plan([30, 1, 120, 2, 2], [45, 20, 1]), 900, 's0', () => 60)
    blocks
      .slice(1)
      .forEach((each, k) =>
        expect(each.x - each.changeWidth).toBeGreaterThanOrEqual(
          blocks[k]!.x + blocks[k]!.width - 1e-6,
        ),
      )
  })
  it('is to scale where blocks are wide enough', () => {
    const [a, b] = layOut(plan([60, 120]), 900, 's0', () => 60)
    expect(b!.width / a!.width).toBeCloseTo(2, 1)
  })
  it('shows what is attended where it happens', () => {
    const of = plan([60, 120])
    of.setups[0]!.events.push(
      { kind: 'stop', operation: 's0o0', seconds: 30 } as never,
      { kind: 'range', operation: 's0o1', seconds: 240 } as never,
    )
    const blocks = layOut(of, 900, 's0', () => 60)
    expect(blocks.map((each) => [each.kind, each.seconds])).toEqual([
      ['operation', 60],
      ['attended', 30],
      ['attended', 240],
      ['operation', 120],
    ])
    expect(blocks[3]!.start).toBe(4 + 60 + 30 + 240)
  })
  it('draws a block as long as all its positions take', () => {
    const of = plan([60])
    of.setups[0]!.operations[0]!.times = 3
    expect(layOut(of, 900, 's0', () => 60)[0]!.seconds).toBe(180)
  })
  it('never makes a block narrower than its number', () => {
    for (const each of layOut(plan([1, 1, 1, 1, 600]), 700, 's0', () => 60))
      expect(each.width).toBeGreaterThanOrEqual(26)
  })
  it('shows tool changes as gaps, and none where the tool stays', () => {
    const [a, b] = layOut(plan([60, 60]), 900, 's0', () => 60)
    expect(a!.changeWidth).toBeGreaterThan(0)
    expect(b!.changeWidth).toBe(0)
    expect(b!.x).toBeCloseTo(a!.x + a!.width)
  })
  it('puts turning over between setups', () => {
    expect(layOut(plan([60], [60]), 900, 's0', () => 60).map((each) => each.kind)).toEqual([
      'operation',
      'handling',
      'operation',
    ])
  })
  it('folds what is not looked at once a plan is long', () => {
    const long = Array.from({ length: FOLD_FROM }, () => 10)
    const blocks = layOut(plan(long, [10, 10]), 900, 's1', () => 60)
    expect(blocks.map((each) => each.kind)).toEqual([
      'folded',
      'handling',
      'operation',
      'operation',
    ])
  })
  it('reads the time back where the tick stands', () => {
    const blocks = layOut(plan([1, 60, 3], [45]), 900, 's0', () => 60)
    let last = -1
    for (let t = 0; t < 170; t += 3) {
      const x = xOf(t, blocks)
      expect(x).toBeGreaterThanOrEqual(last)
      last = x
    }
    const second = blocks[1]!
    expect(xOf(second.start + second.change + second.seconds / 2, blocks)).toBeCloseTo(
      second.x + second.width / 2,
    )
  })
  it('stands an empty plan', () => {
    expect(layOut(plan([]), 900, 's0', () => 60)).toEqual([])
    expect(xOf(10, [])).toBe(0)
  })
  it('says what the seconds of a block go to', () => {
    const of = plan([60])
    of.setups[0]!.events = [
      { kind: 'rapid', operation: 's0o0', seconds: 2 },
      { kind: 'cut', operation: 's0o0', seconds: 6 },
      { kind: 'cut', operation: 'other', seconds: 9 },
      { kind: 'change', operation: 's0o0', seconds: 4 },
    ] as never
    expect(sharesOf(of.setups[0]!, 's0o0')).toEqual([
      { kind: 'cut', from: 0, to: 0.75 },
      { kind: 'move', from: 0.75, to: 1 },
    ])
    expect(sharesOf(of.setups[0]!, 'none')).toEqual([])
  })
  it('shows what putting in takes at each setup by itself', () => {
    const of = plan([60], [40])
    of.figures = { 's0.put_in': [55, '', []], a: [1, '', []], 'b.put_in': [7, '', []] } as never
    of.setups[0]!.stations = [{ id: 'st' }] as never
    of.setups[1]!.stations = [{ id: 'a' }, { id: 'b' }] as never
    expect(of.setups.map((each) => putIn(of, each))).toEqual([55, 7])
  })
})
