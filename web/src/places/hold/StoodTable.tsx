import { useEffect, useRef } from 'react'
import type { SetupResult } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { Figure } from '../../ui/Figure'
import type { Hold } from './useHold'

// What each operation of the station asks, and how many times it is stood.
export function StoodTable({
  hold,
  whole,
  operation,
  onPick,
}: {
  hold: Hold
  whole: SetupResult
  operation: string | null
  onPick: (operation: string) => void
}) {
  const { system } = useUnits()
  const row = useRef<HTMLTableRowElement>(null)
  const before = useRef(operation)
  useEffect(() => {
    if (before.current !== operation) row.current?.scrollIntoView({ block: 'nearest' })
    before.current = operation
  }, [operation])
  const known = hold.operations.flatMap((each) => {
    const op = whole.operations.find((one) => one.id === each.id)
    return op ? [{ ...each, op }] : []
  })
  const told = known.filter((each) => each.factor !== null)
  const weakest = told.reduce<number>((least, each) => Math.min(least, each.factor!), Infinity)
  return (
    <table className="w-full border-collapse text-body">
      <thead>
        <tr className="text-left text-small text-ink-2">
          <th className="w-12 py-1 pl-4 font-normal" aria-label="Number" />
          <th className="font-normal">Operation</th>
          <th className="text-right font-normal">force, worn</th>
          <th className="pl-4 font-normal">weakest</th>
          <th className="pr-4 text-right font-normal">stood</th>
        </tr>
      </thead>
      <tbody>
        {known.map((each) => {
          const bad = each.factor !== null && each.factor < each.asked
          const chosen = each.id === operation
          return (
            <tr
              key={each.id}
              ref={chosen ? row : undefined}
              aria-selected={chosen}
              className={`cursor-pointer border-t border-hair hover:bg-mark-wash ${chosen ? 'bg-brass-wash outline-2 -outline-offset-2 outline-brass' : ''}`}
              onClick={() => onPick(each.id)}
            >
              <td className="n py-1 pl-4 text-ink-2">{each.op.number}</td>
              <td>
                <button className="text-left" onClick={() => onPick(each.id)}>
                  {each.op.title}
                </button>
              </td>
              <td className="text-right">
                {each.force_n === null ? (
                  <span className="text-ink-3">twists</span>
                ) : (
                  <Figure value={each.force_n} quantity="force" />
                )}
              </td>
              <td className="n pl-4">{each.towards || '–'}</td>
              <td
                className={`n pr-4 text-right ${bad ? 'font-semibold text-red' : each.factor === weakest ? 'font-semibold' : ''}`}
              >
                {each.factor === null
                  ? '–'
                  : each.factor >= hold.over
                    ? `over ${show(hold.over, 'factor', system)}`
                    : show(each.factor, 'factor', system)}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
