import { useState } from 'react'
import type { Plan } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { placesOf } from './asked'
import type { Feature } from './feature'

type Row = NonNullable<NonNullable<Plan['part']>['requirements']>[number]

// Which face or hole a size is measured from: the part should be located on it where the size is cut.
export function MeasuredFrom() {
  const { answer, session } = useFrame()
  const [size, setSize] = useState('')
  const rows = answer.plan.part?.requirements ?? []
  const features = (answer.features as Feature[]).filter((each) =>
    ['flat', 'hole'].includes(each.kind),
  )
  const places = placesOf(features)
  const set = (id: string, datum: string) =>
    void quietly(
      session.edit((plan) => [
        {
          do: 'set_part',
          part: {
            ...plan.part,
            requirements: (plan.part?.requirements ?? []).map((row: Row) =>
              row.id === id ? { ...row, datum } : row,
            ),
          },
        },
      ]),
    )
  if (rows.length === 0) return null
  const open = rows.filter((row) => !row.datum && row.feature)
  const chosen = open.find((row) => row.id === size)
  return (
    <div className="my-2 flex flex-wrap items-center gap-x-2 gap-y-1.5">
      <Choice
        label="Measured from a face or hole is"
        value={chosen?.id ?? ''}
        options={[
          { value: '', label: rows.some((row) => row.datum) ? 'one more size' : 'no size' },
          ...open.map((row) => ({ value: row.id, label: row.what })),
        ]}
        onChange={setSize}
      />
      {chosen && (
        <Choice
          label="from"
          value=""
          options={[{ value: '', label: 'which?' }, ...places]}
          onChange={(datum) => {
            setSize('')
            set(chosen.id, datum)
          }}
        />
      )}
      {rows
        .filter((row) => row.datum)
        .map((row) => (
          <span key={row.id} className="border border-hair-strong px-1.5">
            {row.what} <span className="text-ink-2">from</span>{' '}
            {places.find((each) => each.value === row.datum)?.label ?? 'a place that is gone'}{' '}
            <button
              className="link text-small"
              aria-label={`${row.what} is measured from nothing`}
              onClick={() => set(row.id, '')}
            >
              ×
            </button>
          </span>
        ))}
    </div>
  )
}
