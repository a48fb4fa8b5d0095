import type { Evaluation } from '../../api/client'
import { WhyOf } from '../../ui/WhyOf'

// Between what a time lies eight times in ten, each end with how that comes about.
export function Off({
  of,
  evaluation,
  said,
}: {
  of: 'one_part' | 'batch'
  evaluation: Evaluation
  said: (seconds: number) => string
}) {
  const [under, over] = [`plan.${of}_under`, `plan.${of}_over`]
  const [low, high] = [evaluation.figures[under]?.[0], evaluation.figures[over]?.[0]]
  if (low === undefined || high === undefined) return null
  return (
    <span className="ml-3 text-small font-normal whitespace-nowrap text-ink-2">
      8 in 10 from{' '}
      <span className="n">
        <WhyOf figure={under} evaluation={evaluation} words="One in ten is under">
          {said(Number(low))}
        </WhyOf>
      </span>{' '}
      to{' '}
      <span className="n">
        <WhyOf figure={over} evaluation={evaluation} words="One in ten is over">
          {said(Number(high))}
        </WhyOf>
      </span>
    </span>
  )
}
