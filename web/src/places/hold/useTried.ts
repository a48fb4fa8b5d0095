import { useState } from 'react'
import { AS_PLANNED, type Tried } from './useHold'

// What is tried of one station; a change of the plan or another station begins again as planned.
export function useTried(revision: number, station: string): [Tried, (next: Tried) => void] {
  const about = `${station}@${revision}`
  const [of, setOf] = useState<{ about: string; tried: Tried }>({ about, tried: AS_PLANNED })
  const tried = of.about === about ? of.tried : AS_PLANNED
  return [tried, (next) => setOf({ about, tried: next })]
}
