import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit, type Finding } from '../api/client'
import type { PlanSession } from '../api/planSession'
import { Sentence } from './Figure'
import { clock } from './format'
import { useRested } from './rested'

type Props = { finding: Finding; plan: number; revision: number; session: PlanSession }

// The fixes that were tried and keep what they promise, the cheapest first, each with what it does to the time of a part.
export function Fixes({ finding, plan, revision, session }: Props) {
  const [settled, setSettled] = useState(-1) // what is tried never stands in the way of the next edit's answer
  useRested(revision, REST_MS, setSettled)
  const [asked, setAsked] = useState(-1) // of which revision all of them are
  const all = asked === revision
  const tried = (all: boolean) => ({
    queryKey: ['fixes', plan, settled, finding.key, all],
    meta: { shown: true },
    staleTime: Infinity,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/fixes', {
          params: { path: { id: plan }, query: { finding: finding.key, all } },
        }),
      ),
  })
  const ready = settled === revision && !finding.kept
  const { data: soon, error } = useQuery({ ...tried(false), enabled: ready })
  const rest = useQuery({ ...tried(true), enabled: ready && all })
  const data = rest.data ?? soon
  if (finding.kept) return null
  if (error)
    return (
      <p role="alert" className="text-small text-ink-2">
        {error.message}
      </p>
    )
  if (!data)
    return (
      <p role="status" className="text-small text-ink-3">
        trying what would mend it …
      </p>
    )
  if (data.fixes.length === 0 && finding.severity === 'note') return null
  if (data.fixes.length === 0)
    return (
      <p className="text-small text-ink-2">
        {data.tried > 0
          ? 'Nothing that is offered for it settles it without stopping something else; change the plan by hand.'
          : 'It has to be changed by hand.'}
      </p>
    )
  return (
    <ul className="flex flex-wrap items-start gap-x-3 gap-y-1.5" aria-label="What would mend it">
      {data.fixes.map((fix, place) => (
        <li key={place} className="flex max-w-72 flex-col">
          <button
            className={place === 0 ? 'press text-left' : 'press-2 text-left'}
            onClick={() => session.send(fix.edits as Edit[])}
          >
            <Sentence text={fix.label} values={{ ...finding.values, ...fix.values }} />
          </button>
          <span className="mt-0.5 text-small text-ink-2">
            <span className="n">{changed(fix.one_part_s)}</span>
            {fix.looks.length > 0 && `, to look at then: ${fix.looks.join(', ')}`}
          </span>
        </li>
      ))}
      {data.untried > 0 && (
        <li className="text-small">
          {rest.error ? (
            <span role="alert">{rest.error.message}</span>
          ) : (
            <button className="link" disabled={rest.isFetching} onClick={() => setAsked(revision)}>
              {rest.isFetching ? 'trying the rest …' : `${data.untried} more not tried: try them`}
            </button>
          )}
        </li>
      )}
    </ul>
  )
}

export const changed = (seconds: number) =>
  Math.abs(seconds) < 0.5
    ? 'time as now'
    : `${clock(Math.abs(seconds))} ${seconds < 0 ? 'less' : 'more'}`

const REST_MS = 250
