import { useState } from 'react'
import type { Edit } from '../../api/client'
import type { components } from '../../api/schema'
import { useFrame } from '../frame'

type Said = components['schemas']['SaidOrder']

// What the planner said of a setup's order, and how more is said: with a reason, always.
export function useSaidOrder(setup: string) {
  const { answer, session } = useFrame()
  const said = answer.plan.setups?.find((each) => each.id === setup)?.said_order ?? []
  const write = (said_order: Said[]) =>
    session.send([{ do: 'change', on: `setup:${setup}`, fields: { said_order } } as Edit])
  const others = (first: string, then: string) =>
    said.filter(
      (each) =>
        !([each.first, each.then].includes(first) && [each.first, each.then].includes(then)),
    )
  return {
    said,
    say: (one: Said) => write([...others(one.first, one.then), one]),
    unsay: (one: Pick<Said, 'first' | 'then'>) => write(others(one.first, one.then)),
  }
}

// Asks for the reason before it says anything.
export function Because({
  words,
  label,
  onSay,
}: {
  words: string
  label: string
  onSay: (why: string) => void
}) {
  const [open, setOpen] = useState(false)
  const [why, setWhy] = useState('')
  if (!open)
    return (
      <button className="link text-small" onClick={() => setOpen(true)}>
        {words}
      </button>
    )
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (why.trim() === '') return
        onSay(why.trim())
        setOpen(false)
        setWhy('')
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-1.5 text-small">
        because
        <input
          autoFocus
          aria-label={label}
          value={why}
          maxLength={200}
          onChange={(event) => setWhy(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
          className="min-w-0 flex-1 border border-hair-strong bg-paper px-1.5 py-0.5"
        />
      </label>
      <button className="press-2" disabled={why.trim() === ''}>
        {words}
      </button>
    </form>
  )
}
