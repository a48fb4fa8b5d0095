import type { Plan } from '../../api/client'
import { freshId } from '../../api/freshId'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { unit } from '../../ui/format'
import { useUnits } from '../../app/units'
import { useFrame } from '../frame'
import { placesOf } from './asked'
import type { Feature } from './feature'

type Row = NonNullable<NonNullable<Plan['part']>['requirements']>[number]

// Toleranced sizes: what push-off is compared with, and what the sheet tells the operator to measure.
export function Requirements() {
  const { answer, session } = useFrame()
  const { system } = useUnits()
  const part = answer.plan.part
  const rows = part?.requirements ?? []
  const store = (next: (rows: Row[]) => Row[]) =>
    session.edit((plan) => [
      {
        do: 'set_part',
        part: { ...plan.part, requirements: next(plan.part?.requirements ?? []) },
      },
    ])
  const set = (id: string, fields: Partial<Row>) =>
    store((now) => now.map((row) => (row.id === id ? { ...row, ...fields } : row)))
  const places = [
    { value: '', label: 'the whole part' },
    { value: 'outside', label: 'the outside' },
    ...placesOf(answer.features as Feature[]),
  ]
  return (
    <div>
      {rows.length > 0 && (
        <table className="w-full">
          <thead className="text-small text-ink-2">
            <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:pb-1">
              <th>What</th>
              <th>Of</th>
              <th>Size, {unit('size', system)}</th>
              <th>Upper</th>
              <th>Lower</th>
              <th>Rt, {unit('roughness', system)}</th>
              <th>Measured with</th>
              <th>How often</th>
              <th>
                <span className="sr-only">Take it out</span>
              </th>
            </tr>
          </thead>
          <tbody className="[&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-2">
            {rows.map((row) => (
              <tr key={row.id}>
                <td>
                  <TextField
                    label="What"
                    labelled={false}
                    wide="w-28"
                    value={row.what}
                    onCommit={(what) => set(row.id, { what })}
                  />
                </td>
                <td>
                  <Choice
                    label="Of"
                    labelled={false}
                    wide="w-32"
                    value={row.feature ?? ''}
                    options={places}
                    onChange={(feature) => void quietly(set(row.id, { feature }))}
                  />
                </td>
                <td>
                  {row.thread ? (
                    <span className="n">{row.thread}</span>
                  ) : (
                    <NumberField
                      label="Size"
                      labelled={false}
                      value={row.nominal_mm ?? null}
                      quantity="size"
                      bare
                      empty="–"
                      onCommit={(nominal_mm) => set(row.id, { nominal_mm })}
                    />
                  )}
                </td>
                <td>
                  {!row.thread && (
                    <NumberField
                      label="Upper"
                      labelled={false}
                      value={row.upper_mm ?? 0}
                      quantity="size"
                      bare
                      onCommit={(value) => set(row.id, { upper_mm: value ?? 0 })}
                    />
                  )}
                </td>
                <td>
                  {!row.thread && (
                    <NumberField
                      label="Lower"
                      labelled={false}
                      value={row.lower_mm ?? 0}
                      quantity="size"
                      bare
                      onCommit={(value) => set(row.id, { lower_mm: value ?? 0 })}
                    />
                  )}
                </td>
                <td>
                  {!row.thread && (
                    <NumberField
                      label="Roughness Rt"
                      labelled={false}
                      value={row.finish_um ?? null}
                      quantity="roughness"
                      bare
                      empty="–"
                      onCommit={(finish_um) => set(row.id, { finish_um })}
                    />
                  )}
                </td>
                <td>
                  <TextField
                    label="Measured with"
                    labelled={false}
                    wide="w-28"
                    value={row.measured_with ?? ''}
                    onCommit={(measured_with) => set(row.id, { measured_with })}
                  />
                </td>
                <td>
                  <TextField
                    label="How often"
                    labelled={false}
                    wide="w-20"
                    value={row.how_often ?? ''}
                    onCommit={(how_often) => set(row.id, { how_often })}
                  />
                </td>
                <td>
                  <button
                    className="link text-small"
                    aria-label={`take out ${row.what}`}
                    onClick={() =>
                      void quietly(store((now) => now.filter((each) => each.id !== row.id)))
                    }
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        className="link mt-1.5"
        onClick={() =>
          void quietly(
            store((now) => [
              ...now,
              {
                id: freshId('r'),
                what: 'New size',
                feature: '',
                datum: '',
                nominal_mm: null,
                upper_mm: 0.1,
                lower_mm: -0.1,
                thread: '',
                measured_with: '',
                how_often: '',
              },
            ]),
          )
        }
      >
        Add a size
      </button>
    </div>
  )
}
