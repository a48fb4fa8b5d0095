import { Going } from '../../ui/Going'
import type { useFurther } from './further'

// How far the worker is with what takes longer: other orders, and what others would do otherwise.
export function Further({
  further,
  left,
}: {
  further: ReturnType<typeof useFurther>
  left: number
}) {
  if (further.going)
    return (
      <div className="mb-4">
        <Going task={further.going} onStop={further.stop} />
      </div>
    )
  if (left === 0 && further.task?.state !== 'cancelled') return null
  if (!further.may)
    return (
      <p className="mb-4 text-small text-ink-3">
        What takes longer to work out stands here once a planner opened this.
      </p>
    )
  if (!further.problem && further.task?.state !== 'cancelled') return null
  return (
    <p role="alert" className="mb-4 text-small">
      {further.problem ?? 'Stopped: what was found until then stands here.'}{' '}
      <button className="link" onClick={further.begin}>
        Go on
      </button>
    </p>
  )
}
