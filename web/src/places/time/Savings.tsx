import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Edit, type Evaluation } from '../../api/client'
import type { components } from '../../api/schema'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useRested } from '../../ui/rested'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { useAllSavings } from './allSavings'
import { seconds } from './goes'

const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(2)}`
type Row = components['schemas']['SavingOut']
const REST_MS = 600
const LEAST_S = 0.05

// Changes that were worked out as plans of their own, those that shorten the batch most first: what is found
// soon, and all of it by the worker where somebody asks.
export function Savings() {
  const { answer, evaluation, session } = useFrame()
  const [settled, setSettled] = useState(-1)
  useRested(answer.revision, REST_MS, setSettled)
  const all = useAllSavings(answer.id, answer.revision)
  const first = useQuery({
    queryKey: ['first saving', answer.id, settled],
    staleTime: Infinity,
    enabled: settled === answer.revision,
    queryFn: () =>
      ask(api.GET('/api/plans/{id}/savings/first', { params: { path: { id: answer.id } } })),
  })
  const soon = useQuery({
    queryKey: ['savings', answer.id, settled],
    staleTime: Infinity,
    enabled: settled === answer.revision && !first.isPending,
    queryFn: () => ask(api.GET('/api/plans/{id}/savings', { params: { path: { id: answer.id } } })),
  })
  const known = soon.data ?? (first.data?.rows.length ? first.data : undefined)
  const data = all.data && all.data.tried > (known?.tried ?? 0) ? all.data : known
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
      <ol>
        {data?.rows.map((row, place) => (
          <Saving
            key={row.of}
            row={row}
            first={place === 0}
            evaluation={evaluation}
            onTake={() => session.send(row.edits as Edit[])}
          />
        ))}
      </ol>
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
          {untried} more not tried: try them
        </button>
      )}
    </>
  )
}

function Saving({
  row,
  first,
  evaluation,
  onTake,
}: {
  row: Row
  first: boolean
  evaluation: Evaluation | null
  onTake: () => void
}) {
  const setup = evaluation?.setups.find((each) => each.id === row.setup)
  const id = row.of.split('/')[0]
  const op = setup?.operations.find((each) => each.id === id)
  const setupOf = (operation: string) =>
    evaluation?.setups.find((each) => each.operations.some((one) => one.id === operation))
  return (
    <li className="grid grid-cols-[76px_1fr_auto] items-start gap-x-3 border-t border-hair py-2">
      <span>
        <b className="n">
          {row.one_part_s < LEAST_S ? '' : '−'}
          {seconds(Math.max(row.one_part_s, 0))}
        </b>
        <span className="n block text-small text-ink-2">−{clock(row.batch_s)}</span>
        {row.cost !== null && (
          <span className="block text-small text-ink-2">
            cost <span className="n">{signed(-row.cost)}</span>
          </span>
        )}
      </span>
      <span>
        {setup && (
          <span className="text-ink-2">
            {op ? (
              <Link className="link" to={`../setups?op=${op.id}`}>
                <span className="n">
                  {setup.number}/{op.number}
                </span>{' '}
                {op.title}
              </Link>
            ) : (
              `Setup ${setup.number}`
            )}
            :{' '}
          </span>
        )}
        <Sentence text={row.said.text} values={row.said.values} />
        {row.because.text && (
          <span className="block text-small text-ink-2">
            <Sentence text={row.because.text} values={row.because.values} />
          </span>
        )}
        {row.each.length > 0 && (
          <span className="block text-small text-ink-2">
            with its other tool:{' '}
            {row.each.map((one, k) => (
              <span key={one.operation}>
                {k > 0 && ', '}
                <span className="n">
                  {setupOf(one.operation)?.number}/{one.number} {one.seconds < 0 ? '−' : '+'}
                  {seconds(Math.abs(one.seconds))}
                </span>
              </span>
            ))}
          </span>
        )}
        {row.pays_from !== null && (
          <span className="block text-small text-ink-2">
            with a tool loaded for it: pays from <span className="n">{row.pays_from}</span>{' '}
            {row.pays_from === 1 ? 'part' : 'parts'} on
            {row.cost !== null && row.cost > 0 && (
              <>
                ; one that is bought for it may cost{' '}
                <span className="n">{row.cost.toFixed(2)}</span>
              </>
            )}
          </span>
        )}
        {row.looks.map((look, k) => (
          <span key={k} className="block text-small text-amber-edge">
            To look at then: <Sentence text={look.text} values={look.values} />
          </span>
        ))}
      </span>
      <button className={first ? 'press' : 'press-2'} onClick={onTake}>
        Take it
      </button>
    </li>
  )
}
