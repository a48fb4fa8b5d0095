import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import type { Load } from './useLoad'
import type { At } from './where'

type Props = {
  at: At & { kind: 'faces' }
  carries: Load['carries']
  change: (fields: Record<string, unknown>) => void
}

// On which faces of which tombstone, in how many columns and rows on each.
export function FaceFields({ at, carries, change }: Props) {
  const on = carries.find((each) => each.key === at.on)
  const taken = new Set(at.faces)
  const toggled = (face: number) =>
    [...taken, face].filter((each) => each !== face || !taken.has(face)).sort((a, b) => a - b)
  return (
    <>
      <Choice
        label="On"
        value={at.on}
        options={carries.map((each) => ({ value: each.key, label: each.name }))}
        onChange={(key) => {
          const sides = carries.find((each) => each.key === key)!.sides
          const faces = at.faces.filter((face) => face <= sides)
          change({ at: { ...at, on: key, faces: faces.length ? faces : [1] } })
        }}
      />
      <span role="group" aria-label="Faces" className="flex items-center gap-1">
        <span className="text-ink-2">Faces</span>
        {Array.from({ length: on?.sides ?? 0 }, (_, k) => k + 1).map((face) => (
          <button
            key={face}
            aria-pressed={taken.has(face)}
            className={`n h-6 min-w-6 border ${taken.has(face) ? 'border-ink bg-ink text-paper' : 'border-hair-strong'}`}
            onClick={() => toggled(face).length && change({ 'at.faces': toggled(face) })}
          >
            {face}
          </button>
        ))}
      </span>
      {(['columns', 'rows'] as const).map((field) => (
        <NumberField
          key={field}
          label={field === 'columns' ? 'Across' : 'up'}
          value={at[field] ?? 1}
          quantity="count"
          onCommit={(value) => change({ [`at.${field}`]: Math.round(value ?? 1) })}
        />
      ))}
    </>
  )
}
