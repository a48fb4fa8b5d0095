import { useEffect, useEffectEvent } from 'react'

// Do something with a value once it has not changed for a moment.
export function useRested<T>(value: T, restMs: number, then: (value: T) => void) {
  const rested = useEffectEvent(then)
  useEffect(() => {
    const timer = setTimeout(() => rested(value), restMs)
    return () => clearTimeout(timer)
  }, [value, restMs])
}
