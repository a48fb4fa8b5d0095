import { useMemo, useState } from 'react'
import type { StationResult } from '../../api/client'
import type { Label, OnPick } from '../../stage/types'
import { type Pointed, reading, useRead } from './useRead'
import { useFrame } from '../frame'

type Picks = { station: string; points: Pointed[]; near: number }
const NONE: Picks = { station: '', points: [], near: 1 }
const PIXELS = 8 // within which a corner is meant

// The points picked at a station: the last two, with their marks for the stage.
export function usePicks(seen: StationResult | undefined) {
  const { answer } = useFrame()
  const pointing = reading.use()
  const [kept, setKept] = useState<Picks>(NONE)
  const mine = pointing && kept.station === seen?.id ? kept : NONE
  const { data } = useRead(answer, seen?.id ?? '', mine.points, mine.near)
  const add = (point: Pointed, near: number) =>
    setKept({
      station: seen?.id ?? '',
      points: mine.points.length === 1 ? [...mine.points, point] : [point],
      near,
    })
  const pick: OnPick = (at, looks, pixel) =>
    add({ at: at as Triple, looks: looks as Triple, feature: '' }, PIXELS * pixel)
  const marks = useMemo<Label[]>(
    () =>
      (mine.points.length > 0 ? (data?.points ?? []) : []).map((point, k) => ({
        at: point.stations.find((each) => each.station === seen?.id)?.at ?? [0, 0, 0],
        words: `${k + 1}`,
        tone: 'pick',
        dx: -9,
        dy: -9,
      })),
    [data, mine.points, seen?.id],
  )
  return {
    pointing,
    points: mine.points,
    near: mine.near,
    point: (each: Pointed) => add(each, mine.near),
    setPicks: (points: Pointed[]) => setKept({ ...kept, points }),
    pick,
    marks,
  }
}

type Triple = [number, number, number]
