import type { StationResult } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { aimOf, isTurned, onBy, sideOf } from './aims'

// The side of the part that looks to the tool, and by how much it is turned on from there.
export function SideChoice({
  kind,
  aim,
  station,
  change,
}: {
  kind: string
  aim: string
  station: StationResult | undefined
  change: (fields: Record<string, unknown>) => Promise<unknown>
}) {
  const turnsTo = station?.turns_to ?? []
  if (!station || turnsTo.length === 0 || isTurned(kind)) return null
  const side = sideOf(aim)
  const other = turnsTo.find((each) => each.side === aim)?.other
  const about = station.turns_on
  const canTurnOn = about !== '' && /^[+-][xyz]$/.test(side) && side[1] !== about
  return (
    <>
      <Choice
        label="Side"
        value={side}
        options={[
          { value: '', label: 'as it stands' },
          ...turnsTo.map((each) => ({
            value: each.side as string,
            label: `${each.words}, ${each.index}`,
          })),
        ]}
        onChange={(to) => void quietly(change({ aim: to || null }))}
      />
      {canTurnOn && (
        <NumberField
          label="turned on by"
          quantity="angle"
          value={onBy(aim)}
          onCommit={(deg) => change({ aim: aimOf(side, deg ?? 0, about) })}
        />
      )}
      {other && <span className="text-small text-ink-2">{other}</span>}
    </>
  )
}
