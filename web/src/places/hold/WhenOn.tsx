import type { Edit, SetupResult } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { type Clamp, whenOn } from './clamps'

// From which operation to which a clamp is on, where it is not all the time.
export function WhenOn({
  whole,
  station,
  clamps,
  at,
}: {
  whole: SetupResult
  station: string
  clamps: Clamp[]
  at: number
}) {
  const { session } = useFrame()
  const own = whole.operations.filter((each) => each.station === station)
  if (own.length < 2) return null
  const steps = own.map((op) => ({
    id: op.id,
    on: clamps.filter((_, k) => op.clamps?.includes(k + 1)).map((each) => each.id),
  }))
  const id = clamps[at]!.id
  const is = steps.map(({ on }) => on.includes(id))
  const [from, until] = [Math.max(0, is.indexOf(true)), is.lastIndexOf(true)]
  const set = (first: number, last: number) => {
    const edits = whenOn(steps, id, first, Math.max(first, last)).map((each): Edit => ({
      do: 'change',
      on: `operation:${each.id}`,
      fields: { clamps_after: each.change },
    }))
    if (edits.length) session.send(edits)
  }
  const last = own.length - 1
  const named = own.map((op, k) => ({ value: k, label: `${op.number}` }))
  return (
    <>
      <Choice
        label="on from"
        value={from}
        options={named.map((each) => (each.value === 0 ? { ...each, label: 'the start' } : each))}
        onChange={(first) => set(first, until < 0 ? last : until)}
      />
      <Choice
        label="to"
        value={until < 0 ? last : until}
        options={named
          .filter((each) => each.value >= from)
          .map((each) => (each.value === last ? { ...each, label: 'the end' } : each))}
        onChange={(end) => set(from, end)}
      />
    </>
  )
}
