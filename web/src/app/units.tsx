import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react'
import type { System } from '../ui/format'

type Chosen = { system: System; choose: (system: System) => void; start: (system: System) => void }
const Units = createContext<Chosen>({ system: 'metric', choose: () => {}, start: () => {} })
const KEPT = 'fabrotax.units'

// The system a person chose in this browser; before that, the shop's.
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [chosen, setChosen] = useState<string | null>(() => localStorage.getItem(KEPT))
  const [usual, setUsual] = useState<System>('metric')
  const choose = useCallback((next: System) => {
    localStorage.setItem(KEPT, next)
    setChosen(next)
  }, [])
  const system: System = chosen === 'inch' || chosen === 'metric' ? chosen : usual
  const value = useMemo(() => ({ system, choose, start: setUsual }), [system, choose])
  return <Units.Provider value={value}>{children}</Units.Provider>
}

export const useUnits = () => useContext(Units)
