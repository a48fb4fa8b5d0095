import type { ReactNode } from 'react'
import { useUnits } from '../../app/units'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { unit } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { useHolding } from '../setups/forms'
import { moved } from './clamps'

type Fields = Record<string, unknown>

// Dowels or clamps of a holding, a line each under what is asked of them; every change sets all of them.
export function Rows({
  of,
  form,
  rows,
  set,
  asks = () => true,
  below,
  first,
  ordered = false,
}: {
  of: 'Dowel' | 'Clamp'
  form: string
  rows: { id: string }[]
  set: (rows: Fields[]) => Promise<unknown>
  asks?: (name: string, row: Fields) => boolean
  below?: (k: number) => ReactNode // a second line of a row
  first?: { label: string; cell: (row: Fields, put: (fields: Fields) => void) => ReactNode }
  ordered?: boolean
}) {
  const { system } = useUnits()
  const { typed, picked } = useHolding(form)
  const chosen = picked.filter((spec) => spec.name !== 'fixed_in')
  const put = (k: number, fields: Fields) =>
    set(rows.map((each, j) => (j === k ? { ...each, ...fields } : each)))
  const takeOut = (k: number, name: string) => (
    <button
      className="link"
      aria-label={`Take out ${name.toLowerCase()}`}
      onClick={() => void quietly(set(rows.filter((_, j) => j !== k) as Fields[]))}
    >
      Take out
    </button>
  )
  if (!rows.length) return null
  return (
    <table className="w-full border-collapse" aria-label={`${of}s`}>
      <thead>
        <tr className="text-left text-small text-ink-2">
          <th className="w-6 font-normal" aria-label="Number" />
          {first && <th className="font-normal">{first.label}</th>}
          {chosen.map((spec) => (
            <th key={spec.name} className="font-normal">
              {spec.label}
            </th>
          ))}
          {typed.map((spec) => (
            <th key={spec.name} className="font-normal">
              {spec.label} <span className="n">{unit(spec.quantity, system)}</span>
            </th>
          ))}
          <th aria-label="Order" />
        </tr>
      </thead>
      {rows.map((each, k) => {
        const row = each as Fields
        const name = `${of} ${k + 1}`
        return (
          <tbody
            key={each.id}
            role="group"
            aria-label={name}
            className="border-t border-hair [&>tr>td]:py-0.5"
          >
            <tr>
              <th className="n py-0.5 text-left font-semibold" aria-label={name}>
                {k + 1}
              </th>
              {first && (
                <td className="pr-2">
                  {first.cell(row, (fields) => void quietly(put(k, fields)))}
                </td>
              )}
              {chosen.map((spec) => (
                <td key={spec.name} className="pr-2">
                  <Choice
                    label={`${spec.label} of ${name.toLowerCase()}`}
                    labelled={false}
                    value={String(row[spec.name])}
                    options={spec.options}
                    onChange={(value) => void quietly(put(k, { [spec.name]: value }))}
                  />
                </td>
              ))}
              {typed.map((spec) => (
                <td key={spec.name} className="pr-2">
                  {asks(spec.name, row) && (
                    <NumberField
                      label={`${spec.label} of ${name.toLowerCase()}`}
                      labelled={false}
                      bare
                      quantity={spec.quantity}
                      value={(row[spec.name] as number | null | undefined) ?? null}
                      onCommit={(value) => put(k, { [spec.name]: value })}
                    />
                  )}
                </td>
              ))}
              <td className="text-right text-small whitespace-nowrap">
                {ordered && k > 0 && (
                  <button
                    className="mr-2 px-1 text-ink-2 hover:text-ink"
                    aria-label={`Tighten ${name.toLowerCase()} earlier`}
                    title="tighten it earlier"
                    onClick={() => void quietly(set(moved(rows, k, k - 1) as Fields[]))}
                  >
                    ↑
                  </button>
                )}
                {!below && takeOut(k, name)}
              </td>
            </tr>
            {below && (
              <tr>
                <td />
                <td colSpan={9} className="pb-1">
                  <span className="flex flex-wrap items-center gap-x-3 gap-y-1 text-small">
                    {below(k)}
                    {picked
                      .filter((spec) => !chosen.includes(spec) && asks(spec.name, row))
                      .map((spec) => (
                        <Choice
                          key={spec.name}
                          label={spec.label}
                          value={String(row[spec.name])}
                          options={spec.options}
                          onChange={(value) => void quietly(put(k, { [spec.name]: value }))}
                        />
                      ))}
                    <span className="ml-auto">{takeOut(k, name)}</span>
                  </span>
                </td>
              </tr>
            )}
          </tbody>
        )
      })}
    </table>
  )
}
