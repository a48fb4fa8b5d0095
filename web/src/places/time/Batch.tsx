import type { Evaluation } from '../../api/client'
import { clock } from '../../ui/format'
import { WhyOf } from '../../ui/WhyOf'
import { useLibrary } from '../../api/hooks'
import { useFrame } from '../frame'
import { hours, seconds, taktOf, workingDays } from './goes'
import { Off } from './Off'

// What all parts take: built once, proven once, then as many as were ordered.
export function Batch({ evaluation }: { evaluation: Evaluation }) {
  const { answer } = useFrame()
  const quantity = answer.plan.quantity ?? 1
  const value = (figure: string) => Number(evaluation.figures[figure]?.[0] ?? 0)
  const inputs = evaluation.figures['plan.batch']?.[2] as [string, number][] | undefined
  const of = (name: string) => inputs?.find(([each]) => each === name)?.[1] ?? 0
  const rows: [string, string, number][] = [
    ['Setups built, tools measured', 'plan.build', value('plan.build')],
    ['The first cycle, run slowly', 'plan.prove_out', value('plan.prove_out')],
    ['Sizes of the first part', 'plan.first_part', value('plan.first_part')],
    ['Cycles', '', of('running')],
    ['Parts put in and taken out', 'plan.load', of('by_hand') - of('meanwhile')],
    ['Worn edges changed', 'plan.edges', value('plan.edges')],
  ]
  const gauging = value('plan.gauging')
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
        <Off of="batch" evaluation={evaluation} said={hours} />
      </h2>
      <table className="w-full max-w-md border-t border-hair-strong">
        <tbody>
          {rows
            .filter(([, , seconds]) => seconds > 0.05)
            .map(([words, figure, seconds]) => (
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
      {gauging > 0 && (
        <p className="mt-1 text-small text-ink-2">
          Beside the running machine{' '}
          <WhyOf figure="plan.gauging" evaluation={evaluation} words="Sizes measured later">
            <span className="n">{hours(gauging)}</span>
          </WhyOf>{' '}
          of measuring.
        </p>
      )}
      <Due batch={evaluation.batch_s} />
    </section>
  )
}

// Whether the days that are left do for it, as far as one machine after the other and steps elsewhere tell.
function Due({ batch }: { batch: number }) {
  const { answer, job } = useFrame()
  const { data: library } = useLibrary()
  const settings = library?.items.find((item) => item.kind === 'settings')?.data
  const shift = Number(settings?.shift_hours ?? 8)
  if (!job.due) return null
  const left = workingDays(new Date().toISOString().slice(0, 10), job.due)
  const away = (answer.plan.outside ?? []).reduce((sum, step) => sum + (step.days ?? 0), 0)
  const needs = Math.ceil(batch / 3600 / shift) + away
  const quantity = answer.plan.quantity ?? 1
  const takt = taktOf(left - away, shift, quantity)
  return (
    <p className={`mt-2 ${needs > left ? 'text-red-edge' : 'text-ink-2'}`}>
      Due <span className="n">{job.due}</span>: <span className="n">{left}</span>{' '}
      {left === 1 ? 'working day is' : 'working days are'} left. One setup after the other it takes{' '}
      <span className="n">{needs}</span>
      {away > 0 && (
        <>
          , <span className="n">{away}</span> of them away
        </>
      )}
      {needs > left ? ': too late.' : '.'}
      {takt !== null && (
        <>
          {' '}
          The takt for that is <b className="n">{seconds(takt)}</b>, and so a part comes every{' '}
          <b className="n">{seconds(batch / quantity)}</b>.
        </>
      )}
    </p>
  )
}
