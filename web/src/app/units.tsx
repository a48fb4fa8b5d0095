import { createContext, useContext, useMemo, useState, type ReactNode } from 'react'
import type { System } from '../ui/format'

const Units = createContext<{ system: System; choose: (system: System) => void }>({ system: 'metric', choose: () => {} })
const KEPT = 'fabrotax.units'

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(() => (localStorage.getItem(KEPT) === 'inch' ? 'inch' : 'metric'))
  const value = useMemo(
    () => ({
      system,
      choose: (next: System) => {
        localStorage.setItem(KEPT, next)
        setSystem(next)
      },
    }),
    [system],
  )
  return <Units.Provider value={value}>{children}</Units.Provider>
}

export const useUnits = () => useContext(Units)
