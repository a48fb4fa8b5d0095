import type { OperationResult, PlannedSetup } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Sentence } from '../../ui/Figure'
import { changeTo, type Clamped } from '../hold/clamps'

type Props = {
  op: OperationResult
  planned: Record<string, unknown>
  home: PlannedSetup
  change: (fields: Record<string, unknown>) => Promise<unknown>
}

// Which clamps are on once an operation is done; what differs is changed at a stop that can’t be left out.
export function ClampsAfter({ op, planned, home, change }: Props) {
  const station = home.stations.find((each) => each.id === op.station)
  const held = station?.holding as unknown as Clamped | null | undefined
  if (station?.holding?.kind !== 'clamped' || !held?.clamps?.length) return null
  const now = held.clamps.filter((_, k) => op.clamps?.includes(k + 1)).map((each) => each.id)
  const planned_ = planned.clamps_after as { on?: string[]; off?: string[] } | null | undefined
  const later = held.clamps.filter(
    ({ id }) => !planned_?.off?.includes(id) && (now.includes(id) || planned_?.on?.includes(id)),
  )
  const on = new Set(later.map((each) => each.id))
  const toggle = (id: string) => {
    const next = new Set(on)
    if (!next.delete(id)) next.add(id)
    void quietly(change({ clamps_after: changeTo(now, [...next]) }))
  }
  return (
    <div role="group" aria-label="Clamps after it" className="w-full">
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="text-ink-2">Clamps on after it</span>
        {held.clamps.map((each, k) => (
          <label key={each.id} className="inline-flex items-center gap-1">
            <input type="checkbox" checked={on.has(each.id)} onChange={() => toggle(each.id)} />
            <span className="n">{k + 1}</span>
          </label>
        ))}
        {op.change?.length ? (
          <b>Stop, change clamps</b>
        ) : (
          <span className="text-small text-ink-3">no change</span>
        )}
      </div>
      {op.change && op.change.length > 0 && (
        <ol className="list-decimal pl-5 text-small">
          {op.change.map((each, k) => (
            <li key={k}>
              <Sentence {...each} />
            </li>
          ))}
        </ol>
      )}
    </div>
  )
}
