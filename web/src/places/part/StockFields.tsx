import { useRef } from 'react'
import { useWords } from '../../api/hooks'
import { useUnits } from '../../app/units'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { Sentence } from '../../ui/Figure'
import { plain } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { Ordered } from '../../ui/Measures'
import { useFrame } from '../frame'
import { valueAt } from '../setups/forms'
import { StepPicker, StepProgress } from './StepProgress'
import { useStepFile } from './useStepFile'

const SHAPED = 'shaped'
const AXES = ['X', 'Y', 'Z']

// What the part is cut from: its form, what stands over the part on each side, and how much more may.
export function StockFields() {
  const { answer, evaluation, session } = useFrame()
  const { data: words } = useWords()
  const file = useStepFile(answer.id, 'blank')
  const picker = useRef<HTMLInputElement>(null)
  const stock = (answer.plan.stock ?? {}) as Record<string, unknown>
  const chosen = String(stock.form ?? 'block')
  const form = words?.blanks[chosen]
  const change = (fields: Record<string, unknown>) =>
    session.edit([{ do: 'change', on: 'plan', fields }])
  const use = (next: string) => {
    if (next === SHAPED) picker.current?.click()
    else session.send([{ do: 'use_stock', form: next }])
  }
  const at = (stock.at_mm as number[] | undefined) ?? [0, 0, 0]
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice
          label="Form"
          value={chosen}
          options={Object.entries(words?.blanks ?? {}).map(([value, { name }]) => ({
            value,
            label: name,
          }))}
          onChange={use}
        />
        <StepPicker file={file} label="STEP file of the blank" picker={picker} />
        {chosen === SHAPED && (
          <>
            <span>
              From <b className="n">{String(stock.file_name)}</b>
            </span>
            <button className="press-2" onClick={() => picker.current?.click()}>
              Read another STEP file
            </button>
          </>
        )}
        {form?.picked.map((spec) => (
          <Choice
            key={spec.name}
            label={spec.label}
            value={String(valueAt(answer.plan, spec.name))}
            options={spec.options}
            onChange={(value) => {
              const isNumber = typeof valueAt(answer.plan, spec.name) === 'number'
              void quietly(change({ [spec.name]: isNumber ? Number(value) : value }))
            }}
          />
        ))}
        {form?.typed.map((spec) => (
          <NumberField
            key={spec.name}
            label={spec.label}
            quantity={spec.quantity}
            value={(valueAt(answer.plan, spec.name) as number | null | undefined) ?? 0}
            onCommit={(value) => change({ [spec.name]: value ?? 0 })}
          />
        ))}
        {chosen === SHAPED &&
          AXES.map((name, k) => (
            <NumberField
              key={name}
              label={`Its zero at ${name}`}
              quantity="length"
              value={at[k] ?? 0}
              onCommit={(value) =>
                change({ 'stock.at_mm': at.map((old, i) => (i === k ? (value ?? 0) : old)) })
              }
            />
          ))}
        <NumberField
          label="Out of remnants"
          quantity="count"
          value={answer.plan.remnants ?? 0}
          onCommit={(value) => change({ remnants: value ?? 0 })}
        />
      </div>
      <StepProgress file={file} stays="The blank stays as it was." />
      {form && form.sides.length > 0 && <Sides sides={form.sides} change={change} />}
      {evaluation && !evaluation.problem && (
        <p className="text-ink-2">
          Comes as <Ordered of={evaluation.stock_words} />
          {evaluation.in_blank.length > 0 && (
            <>
              , with <span className="n">{evaluation.in_blank.length}</span> of the part’s features
              in it already
            </>
          )}
          .
        </p>
      )}
      {evaluation?.stock_lacks && (
        <p role="alert" className="flex items-center gap-3 border-l-2 border-red pl-2">
          <Sentence {...evaluation.stock_lacks} />
          {chosen !== SHAPED && (
            <button className="press-2" onClick={() => use(chosen)}>
              As large as it needs
            </button>
          )}
        </p>
      )}
    </div>
  )
}

type Side = { value: string; label: string }

function Sides({
  sides,
  change,
}: {
  sides: Side[]
  change: (fields: Record<string, unknown>) => Promise<unknown>
}) {
  const { answer, evaluation } = useFrame()
  const { system } = useUnits()
  const rows = [
    { field: 'over_mm', words: 'Stands over the part', own: false },
    { field: 'tolerance_mm', words: 'and up to this much more', own: true },
  ]
  // what holds for a side that has none of its own
  const usual = (side: string) =>
    plain(evaluation?.stock_over[side.replace('stock.', '')] ?? 0, 'length', system)
  return (
    <table className="w-fit">
      <thead className="text-small text-ink-2">
        <tr>
          <td />
          {sides.map(({ value, label }) => (
            <th key={value} className="pr-3 text-left font-normal">
              {label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ field, words, own }) => (
          <tr key={field}>
            <th scope="row" className="pr-3 text-left font-normal text-ink-2">
              {words}
            </th>
            {sides.map(({ value: side, label }) => (
              <td key={side} className="py-0.5 pr-3">
                <NumberField
                  label={`${label}: ${words.toLowerCase()}`}
                  labelled={false}
                  bare
                  quantity="length"
                  empty={own ? usual(side) : undefined}
                  value={
                    (valueAt(answer.plan, `${side}.${field}`) as number | null | undefined) ?? null
                  }
                  onCommit={(value) => change({ [`${side}.${field}`]: own ? value : (value ?? 0) })}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
