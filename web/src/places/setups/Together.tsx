import type { OperationResult } from '../../api/client'
import { useFrame } from '../frame'

// Operations of a setup that are the same at other places: what one is given, all get.
export function Together({
  op,
  like,
  change,
}: {
  op: OperationResult
  like: string
  change: (fields: Record<string, unknown>) => unknown
}) {
  const { answer, evaluation } = useFrame()
  const home = answer.plan.setups?.find((setup) =>
    setup.operations?.some((each) => each.id === op.id),
  )
  const planned = home?.operations?.filter((each) => each.like === like && each.kind === op.kind)
  const alike = new Set(planned?.map((each) => each.id))
  const numbers = (evaluation?.setups ?? [])
    .flatMap((setup) => setup.operations)
    .filter((each) => alike.has(each.id) && each.id !== op.id)
    .map((each) => each.number)
  if (!like || !numbers.length) return null
  return (
    <p className="border-t border-hair py-1 text-small text-ink-2">
      Changed together with {numbers.length > 1 ? 'operations' : 'operation'}{' '}
      <span className="n">{numbers.join(', ')}</span>; each keeps its own side.
      <button className="link ml-3" onClick={() => void change({ like: '' })}>
        Change it alone
      </button>
    </p>
  )
}
