import type { Evaluation, PlannedStation, SetupResult } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { Figure } from '../../ui/Figure'
import { WhyOf } from '../../ui/WhyOf'

const ENDS = [
  ['+x', 'right end'],
  ['-x', 'left end'],
  ['+y', 'back'],
  ['-y', 'front'],
].map(([value, label]) => ({ value: value!, label: label! }))
const SET_BY = [
  { value: 'block', label: 'an angle block' },
  { value: 'sine', label: 'a sine bar' },
  { value: 'jaws', label: 'soft jaws cut at it' },
  { value: 'vise', label: 'a sine plate under the vise' },
]

type Props = {
  planned: PlannedStation
  change: (fields: Record<string, unknown>) => Promise<unknown>
  set: (fields: Record<string, unknown>) => void
}

// By what angle a side of the part is raised as it is held, which one, and what sets the angle.
export function Raised({ planned, change, set }: Props) {
  const lies = planned.orientation
  const angle = lies?.raised_deg ?? 0
  return (
    <>
      <NumberField
        label="Raised"
        quantity="angle"
        value={angle}
        onCommit={(value) => change({ 'orientation.raised_deg': value ?? 0 })}
      />
      {angle > 0 && (
        <>
          <Choice
            label="its"
            value={lies?.raised ?? '+x'}
            options={ENDS}
            onChange={(raised) => set({ 'orientation.raised': raised })}
          />
          <Choice
            label="set by"
            value={lies?.raised_by ?? 'block'}
            options={SET_BY}
            onChange={(by) => set({ 'orientation.raised_by': by })}
          />
        </>
      )}
    </>
  )
}

// What a sine bar stands on, and by how much a face cut at the angle may be off.
export function SetAt({
  whole,
  station,
  evaluation,
}: {
  whole: SetupResult
  station: string
  evaluation: Evaluation
}) {
  const of = whole.stations.length > 1 ? station : whole.id
  const [stack, off] = ['gauge_stack', 'angle_off'].map((name) => ({
    id: `${of}.${name}`,
    figure: evaluation.figures[`${of}.${name}`]?.[0] as number | undefined,
  }))
  if (off?.figure === undefined) return null
  return (
    <p className="border-t border-hair px-4 py-1.5 text-small text-ink-2">
      Held at an angle:{' '}
      {stack?.figure !== undefined && (
        <>
          gauge blocks{' '}
          <WhyOf figure={stack.id} evaluation={evaluation} words="Gauge blocks under the roll">
            <Figure value={stack.figure} quantity="size" />
          </WhyOf>
          ,{' '}
        </>
      )}
      a face is off by up to{' '}
      <WhyOf figure={off.id} evaluation={evaluation} words="Off over 100 mm at the angle">
        <Figure value={off.figure} quantity="size" />
      </WhyOf>{' '}
      over <Figure value={100} quantity="length" />.
    </p>
  )
}
