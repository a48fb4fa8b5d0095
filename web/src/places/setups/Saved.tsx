import type { Evaluation, SetupResult, StationResult } from '../../api/client'
import { WhyOf } from '../../ui/WhyOf'
import { clock } from '../../ui/format'

// What it saves that other sides are turned to the tool in the same holding, against a setup for each.
export function Saved({
  whole,
  seen,
  evaluation,
}: {
  whole: SetupResult
  seen: StationResult
  evaluation: Evaluation
}) {
  const of = whole.stations.length > 1 ? seen.id : whole.id
  const [hand, build] = ['sides_hand', 'sides_build'].map((name) => ({
    id: `${of}.${name}`,
    seconds: evaluation.figures[`${of}.${name}`]?.[0] as number | undefined,
  }))
  if (hand?.seconds === undefined || build?.seconds === undefined) return null
  const turning = whole.operations
    .filter((each) => each.station === seen.id)
    .reduce((sum, each) => sum + (each.turned?.seconds ?? 0), 0)
  const sides = new Set(
    whole.operations.flatMap((each) =>
      each.station === seen.id && each.turned?.side ? [each.turned.index] : [],
    ),
  )
  const told = (figure: { id: string; seconds?: number }, words: string) => (
    <WhyOf figure={figure.id} evaluation={evaluation} words={words}>
      <span className="n font-semibold">{clock(figure.seconds ?? 0)}</span>
    </WhyOf>
  )
  return (
    <p className="border-t border-hair px-4 py-1.5 text-small text-ink-2">
      <span className="n">{sides.size}</span> {sides.size === 1 ? 'side' : 'sides'} more in this
      holding: with a setup for each, {told(hand, 'By hand, of one part')} more by hand a part and{' '}
      {told(build, 'Building the setups')} more to build. Turning takes{' '}
      <span className="n">{clock(turning)}</span> of a cycle.
    </p>
  )
}
