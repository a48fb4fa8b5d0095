import { useState } from 'react'

// What is shown of a value that may change meanwhile: while somebody points at it, or is in it with the keyboard,
// it stays as it was, so that no press meets something else than was read. Of another `of` nothing is kept.
export function useHeld<T>(now: T, of: unknown) {
  const [pointed, setPointed] = useState(false)
  const [inside, setInside] = useState(false)
  const [kept, setKept] = useState({ value: now, of })
  const holds = (pointed || inside) && kept.of === of
  if (!holds && (kept.value !== now || kept.of !== of)) setKept({ value: now, of })
  return {
    shown: holds ? kept.value : now,
    behind: holds && kept.value !== now,
    where: {
      onPointerEnter: () => setPointed(true),
      onPointerLeave: () => setPointed(false),
      onFocus: () => setInside(true),
      onBlur: () => setInside(false),
    },
  }
}
