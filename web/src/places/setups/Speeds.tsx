import type { OperationResult } from '../../api/client'
import { useUnits } from '../../app/units'
import { number } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { useKind } from './forms'

type Change = (fields: Record<string, unknown>) => Promise<unknown>
type Props = { op: OperationResult; planned: Record<string, unknown>; change: Change; bad: boolean }
// A way of typing speed or feed: the field it is stored in, its quantity as shown, and what the data give meanwhile.
type WayToSay = { name: string; quantity: string; data: number | null | undefined }

// Speed as turns or at the edge, feed a minute, a tooth or a turn: the unit typed says which, and it stays what was typed.
export function Speeds({ op, planned, change, bad }: Props) {
  const kind = useKind(op.kind)
  if (!kind) return null
  if (kind.feeds.length === 0)
    return (
      <Said
        label="Speed"
        planned={planned}
        change={change}
        bad={bad}
        ways={[
          { name: 'rpm', quantity: 'spindle_speed', data: op.rpm },
          { name: 'cutting_speed_m_min', quantity: 'cutting_speed', data: null },
        ]}
      />
    )
  const rpm: WayToSay = { name: 'rpm', quantity: 'spindle_speed', data: op.rpm }
  const edge: WayToSay = {
    name: 'cutting_speed_m_min',
    quantity: 'cutting_speed',
    data: op.cutting_speed_m_min,
  }
  const feeds: Record<string, WayToSay> = {
    feed_mm_min: { name: 'feed_mm_min', quantity: 'feed', data: op.feed_mm_min },
    feed_per_tooth_mm: { name: 'feed_per_tooth_mm', quantity: 'feed_per_tooth', data: null },
    feed_per_rev_mm: {
      name: 'feed_per_rev_mm',
      quantity: 'feed_per_rev',
      data: op.feed_per_rev_mm,
    },
  }
  return (
    <>
      <Said
        label="Speed"
        planned={planned}
        change={change}
        bad={bad}
        ways={kind.keeps_speed && op.cutting_speed_m_min !== null ? [edge, rpm] : [rpm, edge]}
      />
      <Said
        label="Feed"
        planned={planned}
        change={change}
        ways={kind.feeds.flatMap((name) => feeds[name] ?? [])}
      />
    </>
  )
}

// One field for a value that can be said in several ways; the first is what a bare number means, until another is typed.
function Said({
  label,
  planned,
  change,
  ways,
  bad = false,
}: {
  label: string
  planned: Record<string, unknown>
  change: Change
  ways: WayToSay[]
  bad?: boolean
}) {
  const { system } = useUnits()
  const typed = ways.find((way) => planned[way.name] !== null && planned[way.name] !== undefined)
  const now = typed ?? ways[0]!
  const said =
    now.data === null || now.data === undefined ? 'data' : number(now.data, now.quantity, system)
  const others = ways.filter((way) => way !== now)
  return (
    <NumberField
      label={label}
      value={typed ? (planned[typed.name] as number) : null}
      quantity={now.quantity}
      empty={said}
      bad={bad}
      instead={others.map((way) => way.quantity)}
      onCommit={(value, quantity) =>
        change(
          value === null
            ? Object.fromEntries(ways.map((way) => [way.name, null]))
            : { [(ways.find((way) => way.quantity === quantity) ?? now).name]: value },
        )
      }
    />
  )
}
