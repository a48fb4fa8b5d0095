import type { OperationResult } from '../../api/client'
import { useUnits } from '../../app/units'
import { number } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { TURNED } from './fields'

type Props = { op: OperationResult; planned: Record<string, unknown>; change: (fields: Record<string, unknown>) => Promise<unknown>; bad: boolean }

// Speed and feed, empty while they follow the data: of the spindle and a minute, or kept at the edge and a turn.
export function Speeds({ op, planned, change, bad }: Props) {
  const { system } = useUnits()
  const typed = (name: string) => (planned[name] as number | null | undefined) ?? null
  const data = (value: number | null | undefined, quantity: string) => (value === null || value === undefined ? 'data' : number(value, quantity, system))
  if (!TURNED.has(op.kind))
    return (
      <>
        <NumberField label="Speed" value={typed('rpm')} quantity="spindle_speed" empty={data(op.rpm, 'spindle_speed')} onCommit={(rpm) => change({ rpm })} bad={bad} />
        <NumberField label="Feed" value={typed('feed_mm_min')} quantity="feed" empty={data(op.feed_mm_min, 'feed')} onCommit={(feed_mm_min) => change({ feed_mm_min })} />
      </>
    )
  const kept = op.kind !== 'turn_thread'
  return (
    <>
      {kept && <NumberField label="At the edge" value={typed('cutting_speed_m_min')} quantity="cutting_speed" empty={data(op.cutting_speed_m_min, 'cutting_speed')} onCommit={(cutting_speed_m_min) => change({ cutting_speed_m_min })} />}
      <NumberField label={kept ? 'or fixed' : 'Speed'} value={typed('rpm')} quantity="spindle_speed" empty={kept ? '–' : data(op.rpm, 'spindle_speed')} onCommit={(rpm) => change({ rpm })} bad={bad} />
      {kept && <NumberField label="Feed a turn" value={typed('feed_per_rev_mm')} quantity="feed_per_tooth" empty={data(op.feed_per_rev_mm, 'feed_per_tooth')} onCommit={(feed_per_rev_mm) => change({ feed_per_rev_mm })} />}
    </>
  )
}
