import type { PlannedStation } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { Figure, Sentence } from '../../ui/Figure'
import { NumberField } from '../../ui/NumberField'
import { useFrame } from '../frame'
import { FaceFields } from './FaceFields'
import type { Load, LoadStation } from './useLoad'
import { apart, type At } from './where'

const PITCHES = [
  ['pitch_mm', 'Pitch'],
  ['column_pitch_mm', 'Pitch in X'],
  ['row_pitch_mm', 'in Y'],
] as const

// How many of a station stand on the table, how far apart, and where they keep their zeros.
export function StationLoad({
  planned,
  seen,
  title,
  carries,
}: {
  planned: PlannedStation
  seen: LoadStation
  title: string
  carries: Load['carries']
}) {
  const { session } = useFrame()
  const on = `station:${planned.id}`
  const at = planned.at as (At & Record<string, unknown>) | null | undefined
  const change = (fields: Record<string, unknown>) => session.edit([{ do: 'change', on, fields }])
  const count = seen.spots.length
  const closest = (field: string) =>
    field === 'row_pitch_mm' || (field === 'pitch_mm' && at?.along === 'y')
      ? seen.closest_y
      : seen.closest_x
  const pitches = PITCHES.filter(
    ([field]) =>
      typeof at?.[field] === 'number' &&
      (at.kind !== 'faces' || at[field === 'row_pitch_mm' ? 'rows' : 'columns'] !== 1),
  )
  const why = pitches.map(([field]) => closest(field)).find(Boolean)
  return (
    <div className="border-t border-hair px-4 py-1.5">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <span className="font-semibold">{title}</span>
        <NumberField
          label="Parts"
          value={count}
          quantity="count"
          onCommit={(parts) =>
            session.edit([{ do: 'load', station: planned.id, parts: Math.round(parts ?? 1) }])
          }
        />
        {planned.at?.kind === 'faces' && (
          <FaceFields at={planned.at} carries={carries} change={(fields) => void change(fields)} />
        )}
        {pitches.map(([field, label]) => (
          <NumberField
            key={field}
            label={label}
            value={at![field] as number}
            quantity="length"
            onCommit={(value) => change({ [`at.${field}`]: value })}
          />
        ))}
        <Choice
          label="Zero"
          value={planned.offset_each ? 'each' : 'one'}
          options={[
            { value: 'one', label: 'one for all' },
            { value: 'each', label: 'one each' },
          ]}
          onChange={(which) => void change({ offset_each: which === 'each' })}
        />
        {count > 1 && at?.kind !== 'spots' && at?.kind !== 'faces' && (
          <button
            className="link text-small"
            onClick={() =>
              session.send([
                {
                  do: 'change',
                  on,
                  fields: { at: apart(seen.spots.map((each) => [each.x_mm, each.y_mm] as const)) },
                },
              ])
            }
          >
            place each by itself
          </button>
        )}
      </div>
      {!at && (
        <p className="mt-0.5 flex gap-3 text-small text-ink-2">
          {carries.length
            ? 'Nobody has said on which tombstone it stands.'
            : 'Nobody has said where on the table it stands: drawn in the middle.'}
          <button
            className="link"
            onClick={() => session.send([{ do: 'load', station: planned.id, parts: 1 }])}
          >
            {carries.length ? `Put it on the ${carries[0]!.name}` : 'Stand all of it in the middle'}
          </button>
        </p>
      )}
      {why && (
        <p className="mt-0.5 text-small text-ink-2">
          At least <Figure value={why.mm} quantity="length" />:{' '}
          <Sentence text={why.why.text} values={why.why.values} />
        </p>
      )}
    </div>
  )
}
