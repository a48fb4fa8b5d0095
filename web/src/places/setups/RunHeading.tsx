import type { OperationResult, SetupResult } from '../../api/client'
import { type Heading, headings } from './runs'

type Told = { op: OperationResult; heading?: Heading; under: boolean }

// Operations as they come, with the headings they stand under.
export function underHeadings(setup: SetupResult): Told[] {
  const found = headings(
    setup.operations,
    setup.stations.map((each) => each.id),
  )
  let left = 0
  return setup.operations.map((op) => {
    const heading = found.get(op.id)
    if (heading) left = heading.count
    return { op, heading, under: left-- > 0 }
  })
}

export function RunHeading({ station, side, index }: Heading) {
  return (
    <p className="flex items-baseline gap-2 border-b border-hair bg-surface py-px pl-[52px] pr-3 text-small text-ink-2">
      {station > 0 && (
        <span>
          station <span className="n text-ink">{station}</span>
        </span>
      )}
      <span>{side}</span>
      {index && <span className="n text-ink">{index}</span>}
    </p>
  )
}
