import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../api/client'
import { isGoing } from '../../api/worked'
import { AskAgain, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { Asking } from './Asking'
import { Elsewhere } from './Elsewhere'
import { Proposed } from './Proposed'
import { shareOf, type Proposals } from './proposals'

const POLL_MS = 1000

// Whole plans for the part, worked out by the shop's machines, tools and holdings.
export function Propose() {
  const { answer } = useFrame()
  const cache = useQueryClient()
  const [problem, setProblem] = useState('')
  const key = ['proposals', answer.id, answer.revision]
  const { data, error, refetch } = useQuery({
    queryKey: key,
    queryFn: () =>
      ask(api.GET('/api/plans/{id}/proposals', { params: { path: { id: answer.id } } })),
    refetchInterval: ({ state }) => (isGoing(state.data?.task) ? POLL_MS : false),
  })
  const done = async (doing: Promise<unknown>) => {
    try {
      await doing
      setProblem('')
    } catch (failed) {
      setProblem((failed as Error).message)
    }
    await cache.invalidateQueries({ queryKey: key })
  }
  if (error)
    return (
      <div className="px-5 py-3">
        <AskAgain again={() => void refetch()} error={error} />
      </div>
    )
  if (!data) return <Loading what="what was proposed" />
  return (
    <div className="grid h-full grid-cols-[280px_minmax(0,1fr)]">
      <section
        aria-label="What is asked for"
        className="min-h-0 overflow-y-auto border-r border-hair-strong bg-paper px-5 py-3"
      >
        <Asking data={data} onDo={(doing) => void done(doing)} problem={problem} />
      </section>
      <section aria-label="Proposals" className="min-h-0 overflow-y-auto px-5 py-3">
        <All data={data} />
      </section>
    </div>
  )
}

function All({ data }: { data: Proposals }) {
  const going = isGoing(data.task)
  if (data.proposals.length === 0)
    return (
      <>
        <p className="mb-3 max-w-[560px] text-ink-2" role="status">
          {going
            ? 'Nothing whole yet; each plan stands here as soon as it was worked out.'
            : data.task
              ? nothing(data)
              : 'Plans of different character stand here side by side: with the fewest setups, the least time, the least money for this quantity, and all on the smallest machine. Each is worked out as if you had planned it, and says what it could not plan.'}
        </p>
        <Elsewhere others={data.elsewhere} />
      </>
    )
  const longest = Math.max(
    ...data.proposals.map((each) => each.setups.reduce((sum, s) => sum + shareOf(s), 0)),
    1,
  )
  return (
    <>
      {data.proposals.map((each) => (
        <Proposed key={each.machine} proposal={each} data={data} longest={longest} going={going} />
      ))}
      <Elsewhere others={data.elsewhere} />
    </>
  )
}

const nothing = (data: Proposals): string =>
  data.task?.state === 'failed'
    ? data.task.message
    : data.task?.state === 'cancelled'
      ? 'Stopped before anything was proposed.'
      : data.nothing_left
        ? 'The setups that are there leave nothing to plan.'
        : 'No machine that was tried holds and cuts anything of what is left.'
