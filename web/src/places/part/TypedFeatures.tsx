import { useState } from 'react'
import type { Plan } from '../../api/client'
import { freshId } from '../../api/freshId'
import { quietly } from '../../api/planSession'
import { parse } from '../../ui/entry'
import { useFrame } from '../frame'

type Typed = NonNullable<NonNullable<Plan['part']>['typed']>[number]
const HOLE = { x: '0', y: '0', diameter: '8', depth: '' }
const POCKET = { x: '0', y: '0', length: '30', width: '20', corner: '4', depth: '5' }

// Features of a block, from its top; X and Y from the block's middle.
export function TypedFeatures() {
  const { answer, session } = useFrame()
  const [form, setForm] = useState<'hole' | 'pocket' | null>(null)
  const [values, setValues] = useState<Record<string, string>>({})
  const [problem, setProblem] = useState('')
  const part = answer.plan.part
  const typed = part?.typed ?? []
  const height = part?.size_mm?.[2] ?? 20
  const store = (next: (typed: Typed[]) => Typed[]) =>
    session.edit((plan) => [
      {
        do: 'set_part',
        part: { ...plan.part, typed: next(plan.part?.typed ?? []) },
      },
    ])
  const open = (kind: 'hole' | 'pocket') => {
    setForm(kind)
    setValues(kind === 'hole' ? HOLE : POCKET)
    setProblem('')
  }
  const add = async () => {
    const read: Record<string, number | null> = {}
    for (const [name, text] of Object.entries(values)) {
      if (name === 'depth' && text.trim() === '') {
        read[name] = null
        continue
      }
      const entry = parse(text, 'length', name, undefined, name === 'diameter')
      if (!entry.ok) return setProblem(entry.sentence)
      read[name] = entry.value
    }
    try {
      await store((now) => [...now, form === 'hole' ? hole(read, height) : pocket(read, height)])
      setForm(null)
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <div className="mb-2">
      <div className="flex flex-wrap items-center gap-3">
        <button className="press-2" onClick={() => open('hole')}>
          Add a hole
        </button>
        <button className="press-2" onClick={() => open('pocket')}>
          Add a pocket
        </button>
        {typed.map((each) => (
          <span key={each.id} className="border border-hair-strong px-1.5 text-small leading-6">
            {each.kind === 'hole'
              ? `hole Ø${String(each.diameter_mm)}`
              : `${each.through ? 'window' : 'pocket'} ${String(each.depth_mm)} deep`}{' '}
            <button
              className="link"
              aria-label={`take out ${each.kind} ${each.id}`}
              onClick={() =>
                void quietly(store((now) => now.filter((other) => other.id !== each.id)))
              }
            >
              ×
            </button>
          </span>
        ))}
      </div>
      {form && (
        <form
          className="mt-2 flex flex-wrap items-end gap-3 border-l-[3px] border-brass bg-brass-wash px-3 py-2"
          onSubmit={(event) => {
            event.preventDefault()
            void add()
          }}
        >
          {Object.entries(values).map(([name, text]) => (
            <label key={name} className="flex flex-col">
              <span className="text-small text-ink-2">
                {name}
                {name === 'depth' ? ' (empty: through)' : ''}
              </span>
              <input
                className="field n w-20 text-right"
                value={text}
                onChange={(event) => setValues({ ...values, [name]: event.target.value })}
              />
            </label>
          ))}
          <button className="press">Add</button>
          <button type="button" className="link" onClick={() => setForm(null)}>
            Cancel
          </button>
          {problem && (
            <p role="alert" className="w-full text-red-edge">
              {problem}
            </p>
          )}
        </form>
      )}
    </div>
  )
}

function hole(read: Record<string, number | null>, height: number): Typed {
  const depth = read.depth ?? height
  const through = depth >= height
  return {
    kind: 'hole',
    id: freshId('h'),
    point: [read.x ?? 0, read.y ?? 0, height - depth],
    axis: '+z',
    diameter_mm: read.diameter ?? 0,
    length_mm: depth,
    through,
    opens: through ? ['+z', '-z'] : ['+z'],
    bottom_deg: 0,
    sinks: [],
    around: '',
    open_deg: 0,
  }
}

const CORNER_STEPS = 6

function pocket(read: Record<string, number | null>, height: number): Typed {
  const [x, y, length, width, corner] = ['x', 'y', 'length', 'width', 'corner'].map(
    (name) => read[name] ?? 0,
  ) as [number, number, number, number, number]
  const depth = read.depth ?? height
  const radius = Math.max(0, Math.min(corner, length / 2 - 0.01, width / 2 - 0.01))
  const loop: [number, number, number][] = []
  for (const [sx, sy, start] of [
    [1, 1, 0],
    [-1, 1, 90],
    [-1, -1, 180],
    [1, -1, 270],
  ] as const)
    for (let k = 0; k <= (radius > 0 ? CORNER_STEPS : 0); k++) {
      const angle = ((start + (90 * k) / CORNER_STEPS) * Math.PI) / 180
      loop.push([
        x + sx * (length / 2 - radius) + radius * Math.cos(angle),
        y + sy * (width / 2 - radius) + radius * Math.sin(angle),
        height - depth,
      ])
    }
  return {
    kind: 'pocket',
    id: freshId('p'),
    loops: [loop],
    opens: '+z',
    depth_mm: depth,
    corner_radius_mm: radius,
    closed: true,
    through: depth >= height,
    floor_radius_mm: 0,
    draft_deg: 0,
    across_flats_mm: 0,
    way_into: '',
  }
}
