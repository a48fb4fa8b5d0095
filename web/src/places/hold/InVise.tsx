import type { PlannedStation } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { useHolding, valueAt } from '../setups/forms'
import type { Clamped } from './clamps'

type Record_ = Record<string, unknown>

// Of a plate, or of a fixture up to its lowest seat; a table has none.
const thickOf = (base: Record_) =>
  base.kind === 'fixture'
    ? Math.min(...(base.seats as { high_mm: number }[]).map((each) => each.high_mm))
    : Number(base.thick_mm)

// What holds the plate that the part lies on: bolted down, or a vise.
export function InVise({
  station,
  held,
  change,
}: {
  station: PlannedStation
  held: Clamped
  change: (fields: Record_) => Promise<unknown>
}) {
  const { data: library } = useLibrary()
  const { typed, picked } = useHolding('clamped.vise')
  const holdings = (library?.items ?? []).filter((item) => item.kind === 'holdings')
  const base = holdings.find((item) => item.key === held.base)
  const vises = holdings.filter((item) => item.data.kind === 'vise')
  const thick = base ? thickOf(base.data) : 0
  if (!base || !thick) return null
  const into = (key: string) => {
    const vise = vises.find((item) => item.key === key)
    const clamps = (held.clamps ?? []).map((each) => ({ ...each, fixed_in: 'base' }))
    const fields: Record_ = vise
      ? {
          'holding.vise': {
            vise: key,
            grip_depth_mm: Math.min(Number(vise.data.jaw_height_mm), thick / 2),
            torque_nm: Number(vise.data.max_torque_nm) / 2,
          },
        }
      : { 'holding.vise': null, 'holding.clamps': clamps }
    void quietly(change(fields))
  }
  const planned = station as unknown as Record_
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 pb-1">
      <b>{String(base.data.name)}</b>
      <Choice
        label="held in"
        value={held.vise?.vise ?? ''}
        options={[
          { value: '', label: 'bolted down' },
          ...vises.map((item) => ({ value: item.key, label: String(item.data.name) })),
        ]}
        onChange={into}
      />
      {!held.vise && <span className="text-small text-ink-2">its bolts are not reckoned</span>}
      {held.vise && (
        <>
          {picked
            .filter((spec) => spec.name.endsWith('.fixed'))
            .map((spec) => (
              <Choice
                key={spec.name}
                label={spec.label}
                value={String(valueAt(planned, spec.name))}
                options={spec.options}
                onChange={(value) => void quietly(change({ [spec.name]: value }))}
              />
            ))}
          {typed
            .filter((spec) => /grip_depth_mm$|torque_nm$/.test(spec.name))
            .map((spec) => (
              <NumberField
                key={spec.name}
                label={spec.label}
                quantity={spec.quantity}
                value={(valueAt(planned, spec.name) as number | null | undefined) ?? null}
                onCommit={(value) => change({ [spec.name]: value })}
              />
            ))}
        </>
      )}
    </div>
  )
}
