import type { PlannedStation, SetupResult } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { Figure } from '../../ui/Figure'
import { useFrame } from '../frame'
import { type Clamp, type Clamped, type Dowel, freshOf, usualClamp, usualDowel } from './clamps'
import { InVise } from './InVise'
import { Motions } from './Motions'
import { Rows } from './Rows'
import { WhenOn } from './WhenOn'
import type { Hold } from './useHold'

type Record_ = Record<string, unknown>

// What a part is clamped down with: what it lies on, its dowels and its clamps, and what they do to its motions.
export function Builder({
  station,
  whole,
  hold,
}: {
  station: PlannedStation
  whole: SetupResult | undefined
  hold: Hold | null
}) {
  const { session } = useFrame()
  const { data: library } = useLibrary()
  const held = station.holding as unknown as Clamped
  const change = (fields: Record_) =>
    session.edit([{ do: 'change', on: `station:${station.id}`, fields }])
  const dowels = held.dowels ?? []
  const clamps = held.clamps ?? []
  const known = (library?.items ?? []).filter((item) => item.kind === 'clamps')
  const setClamps = (next: Clamp[]) => change({ 'holding.clamps': next })
  const setDowels = (next: Dowel[]) => change({ 'holding.dowels': next })
  return (
    <section aria-label="Clamps and dowels" className="border-b border-hair px-4 py-2 text-body">
      <InVise station={station} held={held} change={change} />
      <Rows
        of="Dowel"
        form="clamped.dowel"
        rows={dowels}
        set={(next) => setDowels(next as Dowel[])}
      />
      <Rows
        of="Clamp"
        form="clamped.clamp"
        rows={clamps}
        set={(next) => setClamps(next as Clamp[])}
        asks={(name, row) => asksOf(name, row, known, held)}
        first={{
          label: 'Clamps, as tightened',
          cell: (row, put) => (
            <Choice
              label={`Clamp ${clamps.findIndex((each) => each.id === row.id) + 1}`}
              labelled={false}
              wide="w-32"
              value={String(row.clamp)}
              options={known.map((item) => ({ value: item.key, label: String(item.data.name) }))}
              onChange={(clamp) => put({ clamp })}
            />
          ),
        }}
        below={(k) => (
          <>
            <span className="w-16">
              {hold?.clamps[`clamp ${k + 1}`] === undefined ? (
                'not on here'
              ) : (
                <Figure value={hold.clamps[`clamp ${k + 1}`]!} quantity="force" />
              )}
            </span>
            {whole && <WhenOn whole={whole} station={station.id} clamps={clamps} at={k} />}
          </>
        )}
        ordered
      />
      <p className="flex gap-5 border-t border-hair pt-1 text-small">
        <button
          className="link"
          onClick={() =>
            void quietly(setDowels([...dowels, usualDowel(freshOf('d', held), dowels)]))
          }
        >
          Add a dowel
        </button>
        {known.length > 0 && (
          <button
            className="link"
            onClick={() =>
              void quietly(setClamps([...clamps, usualClamp(freshOf('c', held), clamps, known)]))
            }
          >
            Add a clamp
          </button>
        )}
      </p>
      {hold && <Motions hold={hold} />}
    </section>
  )
}

// A strap lies over the part and a screw goes down so far from its side; what takes the reaction is a
// question only where something holds what the part lies on.
function asksOf(
  name: string,
  row: Record_,
  known: { key: string; data: Record_ }[],
  held: Clamped,
) {
  const kind = known.find((item) => item.key === row.clamp)?.data.kind
  if (name === 'over_mm') return kind !== 'side'
  return name !== 'fixed_in' || Boolean(held.vise)
}
