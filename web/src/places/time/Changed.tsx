import type { Evaluation } from '../../api/client'
import { apart, type Each, seconds } from './goes'

// What another tool costs each operation that has it then.
export function Changed({ each, evaluation }: { each: Each[]; evaluation: Evaluation | null }) {
  const { others, alike } = apart(each)
  const setupOf = (operation: string) =>
    evaluation?.setups.find((setup) => setup.operations.some((one) => one.id === operation))
  return (
    <span className="block text-small text-ink-2">
      with its other tool:{' '}
      {others.map((one, k) => (
        <span key={one.operation}>
          {k > 0 && ', '}
          <span className="n whitespace-nowrap">
            {setupOf(one.operation)?.number}/{one.number} {one.seconds < 0 ? '−' : '+'}
            {seconds(Math.abs(one.seconds))}
          </span>
        </span>
      ))}
      {others.length > 0 && alike > 0 && ', '}
      {alike > 0 && (
        <>
          <span className="n">{alike}</span> {alike === 1 ? 'operation takes' : 'operations take'}{' '}
          as long as now
        </>
      )}
    </span>
  )
}
