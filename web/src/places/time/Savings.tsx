import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import { useRested } from '../../ui/rested'
import { useHeld } from '../../ui/held'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { useAllSavings } from './allSavings'
import { Saving } from './Saving'
import { Waiting } from './Waiting'

const REST_MS = 600

// Changes that were worked out as plans of their own, those that shorten the batch most first: what is found
// soon, and all of it by the worker.
export function Savings() {
  const { answer, evaluation, session } = useFrame()
  const [settled, setSettled] = useState(-1)
  useRested(answer.revision, REST_MS, setSettled)
  const current = settled === answer.revision
  const first = useQuery({
    queryKey: ['first saving', answer.id, settled],
    staleTime: Infinity,
    enabled: current,
    queryFn: () =>
      ask(api.GET('/api/plans/{id}/savings/first', { params: { path: { id: answer.id } } })),
  })
  const soon = useQuery({
    queryKey: ['savings', answer.id, settled],
    staleTime: Infinity,
    enabled: current && !first.isPending,
    queryFn: () => ask(api.GET('/api/plans/{id}/savings', { params: { path: { id: answer.id } } })),
  })
  const more = current && (soon.data?.untried ?? 0) > 0
  const all = useAllSavings(answer.id, answer.revision, more)
  const known = soon.data ?? (first.data?.rows.length ? first.data : undefined)
  const found = all.data && all.data.tried > (known?.tried ?? 0) ? all.data : known
  const { shown: data, behind, where } = useHeld(found, answer.revision)
  return (
    <>
      <h2 className="mb-1 font-semibold">What would save most</h2>
      <p className="mb-2 text-small text-ink-2">
        Each was worked out as a plan of its own: it stops nothing that is not stopped now. Seconds
        are of one part; minutes of the batch stand below.
      </p>
      {soon.error && <AskAgain again={() => void soon.refetch()} error={soon.error} />}
      {!soon.error && !data && (
        <p role="status" className="text-ink-3">
          working out what would save time …
        </p>
      )}
      {soon.isPending && data && (
        <p role="status" className="text-ink-3">
          looking for more …
        </p>
      )}
      {data && data.rows.length === 0 && (
        <p>
          {data.untried > 0
            ? 'Nothing of what was tried so far saves any.'
            : 'Nothing that is known to this shop saves any without stopping something.'}
        </p>
      )}
      <ol {...where}>
        {data?.rows.map((row, place) => (
          <Saving
            key={row.of}
            row={row}
            outer={data.rows.find((each) => each.of === row.within)}
            first={place === 0}
            current={current}
            evaluation={evaluation}
            onTake={() => session.send(row.edits as Edit[])}
          />
        ))}
      </ol>
      {behind && (
        <p role="status" className="mt-2 text-small text-ink-3">
          More is known now: it comes as soon as you leave the list.
        </p>
      )}
      {data && <Waiting waiting={data.waiting} evaluation={evaluation} />}
      {data && <Rest untried={data.untried} all={all} />}
    </>
  )
}

// What was not tried: have it tried, see how far that is, or stop it.
function Rest({ untried, all }: { untried: number; all: ReturnType<typeof useAllSavings> }) {
  if (all.going)
    return (
      <p role="status" className="mt-2 flex items-baseline gap-3 text-ink-2">
        {all.going.message || 'waits for the worker'}
        <button className="link" onClick={all.stop}>
          Stop
        </button>
      </p>
    )
  return (
    <>
      {all.problem && (
        <p role="alert" className="mt-2 text-red-edge">
          {all.problem}
        </p>
      )}
      {untried > 0 && (
        <button className="link mt-2" onClick={all.begin}>
          {untried === 1 ? 'one change' : `${untried} changes`} not tried yet: try all
        </button>
      )}
    </>
  )
}
