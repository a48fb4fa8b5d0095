import type { PlannedStation } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'

// How much must stand over the part where Z is picked up on a raw top, so that the smallest blank cleans up.
export function CleansUp({ planned }: { planned: PlannedStation }) {
  const { evaluation } = useFrame()
  const whole = evaluation?.setups.find((setup) =>
    setup.stations.some((each) => each.id === planned.id),
  )
  const figure = `${whole && whole.stations.length > 1 ? planned.id : whole?.id}.least_allowance`
  const least = evaluation?.figures[figure]?.[0] as number | undefined
  if (!evaluation || least === undefined) return null
  return (
    <p className="text-small text-ink-2">
      The smallest blank cleans up where{' '}
      <WhyOf figure={figure} evaluation={evaluation} words="Least over the part">
        <Figure value={least} quantity="length" />
      </WhyOf>{' '}
      stand over the part.
    </p>
  )
}
