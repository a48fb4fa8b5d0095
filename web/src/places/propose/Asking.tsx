import { useState } from 'react'
import { api, ask } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { isGoing, stopTask } from '../../api/worked'
import { Going } from '../../ui/Going'
import { useFrame } from '../frame'
import type { Proposals } from './proposals'

// On which machines, of what, and how far the work on it is.
export function Asking({
  data,
  onDo,
  problem,
}: {
  data: Proposals
  onDo: (doing: Promise<unknown>) => void
  problem: string
}) {
  const { answer } = useFrame()
  const { data: library } = useLibrary()
  const machines = library?.items.filter((each) => each.kind === 'machines') ?? []
  const [left, setLeft] = useState<string[]>([])
  const [afresh, setAfresh] = useState(true)
  const has = (answer.plan.setups ?? []).length > 0
  const wanted = machines.map((each) => each.key).filter((key) => !left.includes(key))
  const begin = () =>
    onDo(
      ask(
        api.POST('/api/plans/{id}/proposals', {
          params: { path: { id: answer.id } },
          body: { machines: left.length > 0 ? wanted : [], afresh: has && afresh },
        }),
      ),
    )
  const { task } = data
  const going = isGoing(task)
  return (
    <>
      <h1 className="mb-2 font-semibold">Have plans proposed</h1>
      {has && (
        <fieldset className="mb-3">
          <legend className="text-small text-ink-2">Of</legend>
          {[true, false].map((each) => (
            <label key={`${each}`} className="flex items-center gap-2">
              <input type="radio" checked={afresh === each} onChange={() => setAfresh(each)} />
              {each ? 'the whole part, planned anew' : 'what its setups leave'}
            </label>
          ))}
        </fieldset>
      )}
      <fieldset>
        <legend className="text-small text-ink-2">Begun on each of</legend>
        {machines.map((each) => (
          <label key={each.key} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={!left.includes(each.key)}
              onChange={(event) =>
                setLeft(
                  event.target.checked
                    ? left.filter((key) => key !== each.key)
                    : [...left, each.key],
                )
              }
            />
            {`${each.data.name}`}
          </label>
        ))}
      </fieldset>
      <button
        className={`${data.proposals.length > 0 ? 'press-2' : 'press'} mt-3`}
        onClick={begin}
        disabled={going || wanted.length === 0}
      >
        {data.task && !going ? 'Work them out again' : 'Work them out'}
      </button>
      {wanted.length === 0 && <p role="alert">Leave at least one machine.</p>}
      {problem && (
        <p role="alert" className="text-red-edge">
          {problem}
        </p>
      )}
      {going && <Going task={task} onStop={() => onDo(stopTask(task.id))} />}
      {task && !going && data.stale && (
        <p className="mt-3 text-small text-brass">
          What stands here was worked out of draft <span className="n">{data.draft}</span>; the plan
          was changed since.
        </p>
      )}
      {task?.state === 'failed' && data.proposals.length > 0 && (
        <p role="alert" className="mt-3 text-small">
          {task.message}
        </p>
      )}
      <p className="mt-4 border-t border-hair pt-2 text-small text-ink-2">
        Cuts are what the shop’s data start with, each tool one that its library has. What a
        proposal says to look at, and its first run, are yours to judge.
      </p>
    </>
  )
}
