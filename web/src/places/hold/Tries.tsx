import { useId } from 'react'
import { quietly } from '../../api/planSession'
import { useUnits } from '../../app/units'
import { Figure } from '../../ui/Figure'
import { show } from '../../ui/format'
import { useFrame } from '../frame'
import { AS_PLANNED, type Hold, type Tried } from './useHold'

const SET: Record<string, { field: string; quantity: string; words: string }> = {
  vise: { field: 'torque_nm', quantity: 'torque', words: 'Tighten to' },
  chuck: { field: 'force_per_jaw_n', quantity: 'force', words: 'Close each jaw with' },
}

// Force and friction dragged off the planned ones: what every cut would be stood then.
export function Tries({
  hold,
  tried,
  onTry,
}: {
  hold: Hold
  tried: Tried
  onTry: (next: Tried) => void
}) {
  const { answer } = useFrame()
  const stations = (answer.plan.setups ?? []).flatMap((each) => each.stations)
  const held = stations.find((each) => each.id === hold.station)?.holding
  const set = SET[held?.kind ?? '']
  const now = set && held ? Number((held as Record<string, unknown>)[set.field]) : undefined
  const off = tried.force !== 1 || tried.friction !== 1
  const known = hold.operations.filter((each) => each.factor !== null)
  const short = known.filter((each) => each.factor! < each.asked).length
  return (
    <section className="grid gap-1 border-b border-hair px-4 py-2" aria-label="What if">
      <Slide
        label="Force"
        value={tried.force}
        onChange={(force) => onTry({ ...tried, force })}
        means={
          now !== undefined && set ? (
            <Figure value={now * tried.force} quantity={set.quantity} />
          ) : null
        }
      />
      <Slide
        label="Friction"
        value={tried.friction}
        onChange={(friction) => onTry({ ...tried, friction })}
        means={null}
      />
      {off && (
        <p className="flex flex-wrap items-baseline gap-x-3 text-body" role="status">
          <span>
            {known.length === 0 ? (
              'No cut of it is known.'
            ) : short === 0 ? (
              'Every cut is stood as often as is asked.'
            ) : (
              <b className="text-red">
                <span className="n">{short}</span> of <span className="n">{known.length}</span>{' '}
                {short === 1 ? 'cut is' : 'cuts are'} stood less than is asked.
              </b>
            )}
          </span>
          {set && now !== undefined && tried.force !== 1 && (
            <Take station={hold.station} set={set} value={now * tried.force} />
          )}
          <button className="underline" onClick={() => onTry(AS_PLANNED)}>
            As planned
          </button>
        </p>
      )}
    </section>
  )
}

function Slide({
  label,
  value,
  onChange,
  means,
}: {
  label: string
  value: number
  onChange: (value: number) => void
  means: React.ReactNode
}) {
  const id = useId()
  const { system } = useUnits()
  return (
    <div className="grid grid-cols-[64px_1fr_44px_84px] items-center gap-2">
      <label htmlFor={id} className="text-ink-2">
        {label}
      </label>
      <input
        id={id}
        type="range"
        min={0.4}
        max={1.6}
        step={0.05}
        value={value}
        aria-valuetext={`${show(value, 'percent', system)} of the planned`}
        className="accent-mark"
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="n text-right">{show(value, 'percent', system)}</span>
      <span className="text-right">{means}</span>
    </div>
  )
}

function Take({
  station,
  set,
  value,
}: {
  station: string
  set: { field: string; quantity: string; words: string }
  value: number
}) {
  const { session } = useFrame()
  const { system } = useUnits()
  const rounded = set.quantity === 'torque' ? Math.round(value) : Math.round(value / 100) * 100
  const change = {
    do: 'change' as const,
    on: `station:${station}`,
    fields: { [`holding.${set.field}`]: rounded },
  }
  return (
    <button className="underline" onClick={() => void quietly(session.edit([change]))}>
      {set.words} {show(rounded, set.quantity, system)}
    </button>
  )
}
