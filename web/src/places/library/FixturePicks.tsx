import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'

export function High({ mm }: { mm: number }) {
  const { system } = useUnits()
  return <span className="n">{show(mm, 'length', system)} high</span>
}

export function At({ spot }: { spot: [number, number] }) {
  const { system } = useUnits()
  return (
    <span className="n text-ink-2">
      X {show(spot[0], 'length', system)}, Y {show(spot[1], 'length', system)}
    </span>
  )
}

// What can be picked of a kind, one a line; picked ones by the name their contacts have.
export function Rows<T extends { id: string }>({
  title,
  rows,
  empty,
  picked,
  marked,
  onPick,
  onMark,
  names,
  tell,
}: {
  title: string
  rows: T[]
  empty?: string
  picked: Set<string>
  marked: string
  onPick: (id: string) => void
  onMark: (id: string) => void
  names: Record<string, string>
  tell: (row: T) => React.ReactNode
}) {
  return (
    <fieldset className="border-t border-hair-strong pt-1.5">
      <legend className="contents">
        <span className="font-semibold">{title}</span>
      </legend>
      {rows.length === 0 && <p className="text-ink-2">{empty}</p>}
      {rows.map((row) => (
        <label
          key={row.id}
          className={`flex min-h-6 items-center gap-2 ${marked === row.id ? 'bg-brass-wash' : ''}`}
          onPointerEnter={() => onMark(row.id)}
          onPointerLeave={() => onMark('')}
        >
          <input
            type="checkbox"
            checked={picked.has(row.id)}
            onFocus={() => onMark(row.id)}
            onBlur={() => onMark('')}
            onChange={() => onPick(row.id)}
          />
          <span className="n w-7 font-semibold text-mark">{names[row.id]}</span>
          <span>{tell(row)}</span>
        </label>
      ))}
    </fieldset>
  )
}

export type Said = { name: string; friction: number; mass_kg: number; source: string }

// What a record says in words, and its key.
export function Words({
  said,
  onSaid,
  name,
  onName,
}: {
  said: Said
  onSaid: (said: Said) => void
  name: string
  onName: (key: string) => void
}) {
  const line = (label: string, value: string, set: (value: string) => void, hint = '') => (
    <label className="flex min-h-7 items-center gap-2">
      <span className="w-32 shrink-0 text-ink-2">{label}</span>
      <input
        className="field w-full"
        value={value}
        placeholder={hint}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  )
  const number = (label: string, field: 'friction' | 'mass_kg', quantity: string) => (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-32 shrink-0 text-ink-2">{label}</span>
      <NumberField
        label={label}
        labelled={false}
        quantity={quantity}
        value={said[field]}
        onCommit={(value) => onSaid({ ...said, [field]: value ?? 0 })}
      />
    </div>
  )
  return (
    <section aria-label="Its words" className="border-t border-hair-strong pt-1.5">
      {line(
        'Name',
        said.name,
        (value) => onSaid({ ...said, name: value }),
        'Rail fixture, 3 stops',
      )}
      {line('Key', name, onName, 'rail-fixture')}
      {number('Friction on it', 'friction', 'number')}
      {number('Mass', 'mass_kg', 'mass')}
      {line(
        'Source',
        said.source,
        (value) => onSaid({ ...said, source: value }),
        'hardened steel, dry; shop’s table',
      )}
    </section>
  )
}
