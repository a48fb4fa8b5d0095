import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import type { CalculatorWords } from '../../api/client'
import { useJob, usePlan } from '../../api/hooks'
import { sessionOf } from '../../api/planSession'
import { jobAt } from '../jobs/jobAt'
import { labelOf } from './labels'

// Puts what was worked out into the operation it was opened from.
export function UseIt({
  known,
  about,
  values,
}: {
  known: CalculatorWords
  about: string
  values: Record<string, unknown>
}) {
  const [number = '', operation = '', variant] = about.split('.')
  const job = useJob(number)
  if (!job.data) return null
  return (
    <Put
      known={known}
      number={number}
      plan={variant === undefined ? job.data.plan : Number(variant)}
      chosen={job.data.plan}
      operation={operation}
      values={values}
    />
  )
}

function Put({
  known,
  number,
  plan,
  chosen,
  operation,
  values,
}: {
  known: CalculatorWords
  number: string
  plan: number
  chosen: number
  operation: string
  values: Record<string, unknown>
}) {
  const cache = useQueryClient()
  const { data, evaluation } = usePlan(plan)
  const [said, setSaid] = useState('')
  const planned = data?.plan.setups
    ?.flatMap((setup) => setup.operations ?? [])
    .find((op) => op.id === operation) as Record<string, unknown> | undefined
  const op = evaluation?.setups
    .flatMap((setup) => setup.operations)
    .find((each) => each.id === operation)
  if (!planned || !op) return null
  const back = `${jobAt(number, plan === chosen ? null : plan)}/setups?op=${operation}`
  const fields = Object.fromEntries(
    Object.entries(known.fills)
      .filter(
        ([name, field]) => field in planned && values[name] !== undefined && values[name] !== '',
      )
      .map(([name, field]) => [field, Number(values[name])]),
  )
  const names = Object.keys(fields).map((field) => labelOf(field).toLowerCase())
  return (
    <p className="mt-4 flex items-center gap-4 border-y border-ink bg-paper py-2 print:hidden">
      {names.length > 0 ? (
        <button
          className="press"
          onClick={() =>
            void sessionOf(plan, cache)
              .edit([{ do: 'change', on: `operation:${operation}`, fields }])
              .then(() => setSaid('It is in the plan.'))
              .catch((error: Error) => setSaid(error.message))
          }
        >
          Use {names.join(' and ')} in operation {op.number}
        </button>
      ) : (
        <span className="text-ink-2">Operation {op.number} has no field for these results.</span>
      )}
      <span role="status">{said}</span>
      <Link className="link ml-auto" to={back}>
        Back to {number}, operation {op.number}
      </Link>
    </p>
  )
}
