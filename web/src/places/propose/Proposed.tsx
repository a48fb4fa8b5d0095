import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { useVariants } from '../../api/hooks'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'
import { jobAt } from '../jobs/jobAt'
import { seconds } from '../time/goes'
import { Open } from './Open'
import { editsOf, forWhat, nameFor, type Proposal, type Proposals, shareOf } from './proposals'

// One proposal: what it is the best of, its figures, its setups to scale, and what it leaves open.
export function Proposed({
  proposal,
  data,
  longest,
  going,
}: {
  proposal: Proposal
  data: Proposals
  longest: number
  going: boolean
}) {
  const title = forWhat(proposal)
  return (
    <article aria-label={title} className="mb-5 border-t-2 border-ink pt-2">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2 className="text-lead font-semibold">{title}</h2>
        <dl className="flex flex-wrap gap-x-5">
          <Value name="one part" said={clock(proposal.one_part_s)} />
          <Value name="the batch" said={clock(proposal.batch_s)} />
          <Value
            name={proposal.cost_whole ? 'costs' : 'costs, as far as known'}
            said={proposal.cost.toFixed(0)}
          />
          <Value name="setups" said={`${proposal.setups.length}`} />
          <Value name="tools" said={`${proposal.tools}`} />
        </dl>
        <Take proposal={proposal} data={data} going={going} />
      </header>
      <ol className="mt-2">
        {proposal.setups.map((setup, k) => (
          <Setup key={setup.id} proposal={proposal} k={k} longest={longest} stale={data.stale} />
        ))}
      </ol>
      <Open proposal={proposal} />
    </article>
  )
}

function Value({ name, said }: { name: string; said: string }) {
  return (
    <div className="flex items-baseline gap-1.5">
      <dt className="text-small text-ink-2">{name}</dt>
      <dd className="n font-semibold">{said}</dd>
    </div>
  )
}

function Setup({
  proposal,
  k,
  longest,
  stale,
}: {
  proposal: Proposal
  k: number
  longest: number
  stale: boolean
}) {
  const { session } = useFrame()
  const setup = proposal.setups[k]
  if (!setup) return null
  const before = proposal.setups.slice(0, k).reduce((sum, each) => sum + shareOf(each), 0)
  const place = {
    left: `${(before / longest) * 100}%`,
    width: `${(shareOf(setup) / longest) * 100}%`,
  }
  return (
    <li className="grid grid-cols-[120px_minmax(0,1fr)] gap-x-3 border-t border-hair py-1.5">
      <div>
        <b>{setup.machine}</b>
        <p className="text-small text-ink-2">
          {setup.sides.join(', ')} up
          {setup.parts > 1 && (
            <>
              , <span className="n">{setup.parts}</span> at a time
            </>
          )}
        </p>
      </div>
      <div className="min-w-0">
        <div className="relative h-4" title={`${seconds(shareOf(setup))} of a part`}>
          <span className="absolute inset-y-[7px] right-0 left-0 border-t border-hair" />
          <span className="absolute inset-y-0.5 bg-mark" style={place} />
        </div>
        <p className="flex flex-wrap items-baseline gap-x-3 text-small">
          <span>
            <span className="n">{setup.operations}</span>{' '}
            {setup.operations === 1 ? 'operation' : 'operations'},{' '}
            <span className="n">{setup.tools}</span> {setup.tools === 1 ? 'tool' : 'tools'},{' '}
            <b className="n">{seconds(shareOf(setup))}</b> a part
          </span>
          {k < proposal.setups.length - 1 && !stale && (
            <button
              className="link ml-auto"
              onClick={() => void session.send(editsOf(proposal, k + 1))}
            >
              Take {k === 0 ? 'this setup alone' : 'the setups up to this one'}
            </button>
          )}
        </p>
        <Reasons setup={setup} />
      </div>
    </li>
  )
}

function Reasons({ setup }: { setup: Proposal['setups'][number] }) {
  return (
    <ul className="text-small text-ink-2">
      {setup.because.map((each, n) => (
        <li key={n}>
          <Sentence text={each.text} values={each.values} />
        </li>
      ))}
      {setup.instead.length > 0 && (
        <li>
          <details>
            <summary className="cursor-pointer">
              Also tried: <span className="n">{setup.instead.length}</span>
            </summary>
            <ul className="pl-4">
              {setup.instead.map((each, n) => (
                <li key={n}>
                  <Sentence text={each.what.text} values={each.what.values} />:{' '}
                  <Sentence text={each.why.text} values={each.why.values} />
                </li>
              ))}
            </ul>
          </details>
        </li>
      )}
    </ul>
  )
}

function Take({ proposal, data, going }: { proposal: Proposal; data: Proposals; going: boolean }) {
  const { job, answer, session, base } = useFrame()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const variants = useVariants(job.number)
  const [problem, setProblem] = useState('')
  const empty = (answer.plan.setups ?? []).length === 0
  const here = async () => {
    try {
      await session.edit(editsOf(proposal))
      void navigate(`${base}/setups`)
    } catch (failed) {
      setProblem((failed as Error).message)
    }
  }
  const beside = async () => {
    const name = nameFor(proposal, variants.data?.map((each) => each.name) ?? [])
    try {
      const made = await ask(
        api.POST('/api/plans/{id}/copies', {
          params: { path: { id: answer.id } },
          body: { name, machine: '', edits: editsOf(proposal) },
        }),
      )
      await cache.invalidateQueries({ queryKey: ['jobs'] })
      void navigate(`${jobAt(job.number, made.plan)}/setups`)
    } catch (failed) {
      setProblem((failed as Error).message)
    }
  }
  if (data.stale) return null
  return (
    <span className="ml-auto flex items-baseline gap-2">
      {problem && (
        <span role="alert" className="text-small text-red-edge">
          {problem}
        </span>
      )}
      <button className={empty && !going ? 'press' : 'press-2'} onClick={() => void here()}>
        {empty || !data.afresh ? 'Plan it like this' : 'In place of this plan'}
      </button>
      <button className={empty || going ? 'press-2' : 'press'} onClick={() => void beside()}>
        As another plan
      </button>
    </span>
  )
}
