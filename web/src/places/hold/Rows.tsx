import type { ReactNode } from 'react'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { useHolding } from '../setups/forms'
import { moved } from './clamps'

type Record_ = Record<string, unknown>

// Dowels or clamps of a holding, a line each; every change sets all of them.
export function Rows({
  of,
  form,
  rows,
  set,
  asks = () => true,
  first,
  last,
  pressed = [],
  ordered = false,
}: {
  of: 'Dowel' | 'Clamp'
  form: string
  rows: { id: string }[]
  set: (rows: Record_[]) => Promise<unknown>
  asks?: (name: string, row: Record_) => boolean
  first?: (row: Record_, set: (fields: Record_) => void) => ReactNode
  last?: (k: number) => ReactNode
  pressed?: string[]
  ordered?: boolean
}) {
  const { typed, picked } = useHolding(form)
  const put = (k: number, fields: Record_) =>
    set(rows.map((each, j) => (j === k ? { ...each, ...fields } : each)))
  return (
    <>
      {rows.map((each, k) => {
        const row = each as Record_
        const name = `${of} ${k + 1}`
        return (
          <div
            key={each.id}
            role="group"
            aria-label={name}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-hair py-1"
          >
            <b className="w-16">{name}</b>
            {first?.(row, (fields) => void quietly(put(k, fields)))}
            {picked
              .filter((spec) => asks(spec.name, row))
              .map((spec) => (
                <Choice
                  key={spec.name}
                  label={spec.label}
                  value={String(row[spec.name])}
                  options={spec.options}
                  onChange={(value) => void quietly(put(k, { [spec.name]: value }))}
                />
              ))}
            {typed
              .filter((spec) => asks(spec.name, row))
              .map((spec) => (
                <NumberField
                  key={spec.name}
                  label={spec.label}
                  quantity={spec.quantity}
                  value={(row[spec.name] as number | null | undefined) ?? null}
                  onCommit={(value) => put(k, { [spec.name]: value })}
                />
              ))}
            {last?.(k)}
            {pressed.includes(name.toLowerCase()) && (
              <span className="text-small text-ink-2">not pressed</span>
            )}
            <span className="ml-auto flex gap-3 text-small">
              {ordered && k > 0 && (
                <button
                  className="link"
                  onClick={() => void quietly(set(moved(rows, k, k - 1) as Record_[]))}
                >
                  Tighten earlier
                </button>
              )}
              <button
                className="link"
                aria-label={`Take out ${name.toLowerCase()}`}
                onClick={() => void quietly(set(rows.filter((_, j) => j !== k) as Record_[]))}
              >
                Take out
              </button>
            </span>
          </div>
        )
      })}
    </>
  )
}
