import { useSyncExternalStore } from 'react'

// One value that places far from each other look at and set.
export function shared<T>(first: T) {
  let value = first
  const told = new Set<() => void>()
  const subscribe = (tell: () => void) => (told.add(tell), () => void told.delete(tell))
  return {
    set: (next: T) => {
      value = next
      told.forEach((tell) => tell())
    },
    use: (): T => useSyncExternalStore(subscribe, () => value),
  }
}
