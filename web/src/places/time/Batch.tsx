import type { Evaluation } from '../../api/client'
import { clock } from '../../ui/format'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'

// What all parts take: built once, proven once, then as many as were ordered.
export function Batch({ evaluation }: { evaluation: Evaluation }) {
  const { answer } = useFrame()
  const quantity = answer.plan.quantity ?? 1
  const value = (figure: string) => Number(evaluation.figures[figure]?.[0] ?? 0)
  const build = value('plan.build')
  const proven = value('plan.prove_out')
  const rows: [string, string, number][] = [
    ['Setups built, tools measured', 'plan.build', build],
    ['The first cycle, run slowly', 'plan.prove_out', proven],
    [`${quantity.toLocaleString('en')} parts`, '', evaluation.batch_s - build - proven],
  ]
  return (
    <section aria-label="The batch" className="mt-5">
      <h2 className="mb-1.5 font-semibold">
        {quantity.toLocaleString('en')} off{' '}
        <span className="n">
          <WhyOf figure="plan.batch" evaluation={evaluation} words="The batch">
            {hours(evaluation.batch_s)}
          </WhyOf>
        </span>
        <span className="font-normal text-ink-2">
          {' '}
          · <span className="n">{clock(evaluation.batch_s / quantity)}</span> each, all counted
        </span>
      </h2>
      <table className="w-full max-w-md border-t border-hair-strong">
        <tbody>
          {rows.map(([words, figure, seconds]) => (
            <tr key={words} className="[&>*]:border-b [&>*]:border-hair [&>*]:py-1">
              <th className="text-left font-normal">{words}</th>
              <td className="n text-right">
                <WhyOf figure={figure} evaluation={evaluation} words={words}>
                  {hours(seconds)}
                </WhyOf>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const hours = (seconds: number) => {
  const minutes = Math.round(seconds / 60)
  return minutes < 60
    ? clock(seconds)
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}
