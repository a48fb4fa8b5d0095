import { describe, expect, it } from 'vitest'
import type { Evaluation } from '../src/api/client'
import {
  apart,
  longest,
  rowsOf,
  seconds,
  taktOf,
  totalsOf,
  workingDays,
} from '../src/places/time/goes'

const event = (kind: string, seconds: number, operation: string) => ({
  kind,
  seconds,
  operation,
  carrier: '',
  position: 0,
  starts_s: 0,
  why: '',
})
const op = (id: string, number: number) => ({ id, number, title: id, detail: '', sizes: {} })
const of = {
  handling_s: 60,
  setups: [
    {
      id: 's1',
      number: 1,
      parts: 2,
      operations: [op('face', 10), op('drill', 20)],
      events: [
        event('change', 4, 'face'),
        event('cut', 20, 'face'),
        event('rapid', 2, 'face'),
        event('cut', 6, 'drill'),
        event('stop', 30, 'drill'),
        event('pallet', 8, ''),
      ],
    },
  ],
} as unknown as Evaluation

describe('where the seconds of a part go', () => {
  it('shares a cycle among its parts, and counts loading once', () => {
    const rows = rowsOf(of)
    expect(rows.map((row) => [row.label, row.seconds])).toEqual([
      ['1/10', 13],
      ['1/20', 18],
      ['1', 4],
      ['', 60],
    ])
    expect(rows.reduce((sum, row) => sum + row.seconds, 0)).toBe((4 + 20 + 2 + 6 + 30 + 8) / 2 + 60)
  })
  it('gathers them under what can be done about them', () => {
    expect(totalsOf(rowsOf(of))).toEqual({
      cut: 13,
      link: 0,
      move: 1,
      change: 2,
      machine: 4,
      hand: 75,
    })
  })
  it('leaves out what is loaded on another pallet meanwhile', () => {
    const inputs = [
      ['cycles', 35, ''],
      ['by_hand', 60, ''],
      ['meanwhile', 25, ''],
    ]
    const figures = { 'plan.one_part': [70, 'part_time', inputs] }
    const row = rowsOf({ ...of, figures } as unknown as Evaluation).at(-1)
    expect(row?.seconds).toBe(35)
    expect(row?.title).toBe('Put in and taken out, the rest meanwhile')
  })

  it('puts the longest first and leaves the order as it was', () => {
    const rows = rowsOf(of)
    expect(longest(rows).map((row) => row.title)).toEqual([
      'Put in and taken out',
      'drill',
      'face',
      'Pallet changed',
    ])
    expect(rows[0]!.title).toBe('face')
  })
  it('counts working days after today, up to the day it is due', () => {
    expect(workingDays('2026-11-30', '2026-12-04')).toBe(4) // Monday to Friday
    expect(workingDays('2026-12-04', '2026-12-07')).toBe(1) // over a weekend
    expect(workingDays('2026-12-05', '2026-12-06')).toBe(0)
    expect(workingDays('2026-12-07', '2026-12-01')).toBe(0)
  })
  it('has a takt from the days that are left', () => {
    expect(taktOf(5, 8, 200)).toBe(720) // 40 hours for 200 parts
    expect(taktOf(1, 8, 0)).toBe(28800)
    expect([taktOf(0, 8, 200), taktOf(-2, 8, 200)]).toEqual([null, null])
  })
  it('reads short times in tenths and long ones as a clock', () => {
    expect([seconds(9.94), seconds(59.97), seconds(125)]).toEqual(['9.9 s', '1:00', '2:05'])
  })
})

describe('another tool', () => {
  it('is told of the operations that take longer or less long with it', () => {
    const one = (operation: string, seconds: number) => ({ operation, number: 10, seconds })
    const told = apart([one('a', 1.02), one('b', 0.004), one('c', -0.02), one('d', -4.7)])
    expect(told.others.map((each) => each.operation)).toEqual(['a', 'd'])
    expect(told.alike).toBe(2)
  })
})
