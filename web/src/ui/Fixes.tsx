import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, ask, type Finding } from '../api/client'
import type { PlanSession } from '../api/planSession'
import { clock } from './format'
import { Sentence } from './Figure'

// The fixes of a finding, each with what it would change, worked out before it is taken.
export function Fixes({ finding, plan, revision, session }: { finding: Finding; plan: number; revision: number; session: PlanSession }) {
  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-1.5">
      {finding.fixes.map((fix, place) => (
        <span key={place} className="flex max-w-60 flex-col">
          <button className={place === 0 ? 'press' : 'press-2'} onClick={() => void session.edit(fix.edits as never).catch(() => {})}>
            <Sentence text={fix.label} values={{ ...finding.values, ...fix.values }} />
          </button>
          <Effect plan={plan} revision={revision} edits={fix.edits} finding={finding.key} />
        </span>
      ))}
    </div>
  )
}

function Effect({ plan, revision, edits, finding }: { plan: number; revision: number; edits: Record<string, unknown>[]; finding: string }) {
  const settled = useSettled(revision)
  const { data, error } = useQuery({
    queryKey: ['preview', plan, settled, edits],
    staleTime: Infinity,
    enabled: settled === revision,
    queryFn: () => ask(api.POST('/api/plans/{id}/preview', { params: { path: { id: plan } }, body: { revision: settled, edits: edits as never, figures: [] } })),
  })
  if (error) return <span className="mt-0.5 text-small text-ink-2">{(error as Error).message}</span>
  if (!data) return <span className="mt-0.5 text-small text-ink-3">working out …</span>
  const [before = 0, after = 0] = data.one_part_s
  const change = after - before
  const time = Math.abs(change) < 0.5 ? 'time as now' : `${clock(Math.abs(change))} ${change < 0 ? 'less' : 'more'}`
  const worse = data.come.filter((each) => each.severity === 'stop').length
  const settles = data.gone.includes(finding)
  return (
    <span className="mt-0.5 text-small text-ink-2">
      <span className="n">{time}</span>
      {!settles && ', does not settle it alone'}
      {worse > 0 && `, brings ${worse} new stop${worse > 1 ? 's' : ''}`}
    </span>
  )
}

const REST_MS = 250

// The revision once it has rested a moment: previews never stand in the way of the next edit's answer.
function useSettled(revision: number): number {
  const [settled, setSettled] = useState(-1)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(revision), REST_MS)
    return () => clearTimeout(timer)
  }, [revision])
  return settled
}
