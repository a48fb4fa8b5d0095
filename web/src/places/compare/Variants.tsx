import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { Mark } from '../../ui/Mark'
import { useFrame } from '../frame'
import { jobAt } from '../jobs/jobAt'
import type { Variant } from './figures'

// Every plan of the job with its note; one is copied, named, and chosen with a reason.
export function Variants({
  variants,
  other,
  onBeside,
}: {
  variants: Variant[]
  other: number | null
  onBeside: (plan: number) => void
}) {
  const { answer, base } = useFrame()
  return (
    <>
      <h1 className="mb-2 font-semibold">Plans of this job</h1>
      <ul>
        {variants.map((each) => (
          <Row
            key={each.plan}
            each={each}
            here={each.plan === answer.id}
            beside={each.plan === other}
            onBeside={() => onBeside(each.plan)}
          />
        ))}
      </ul>
      <p className="border-t border-hair pt-2">
        <Link className="link" to={`${base}/propose`}>
          Have plans proposed for the part
        </Link>
      </p>
      <Copy />
    </>
  )
}

function Row({
  each,
  here,
  beside,
  onBeside,
}: {
  each: Variant
  here: boolean
  beside: boolean
  onBeside: () => void
}) {
  const { job } = useFrame()
  const at = jobAt(job.number, each.chosen ? null : each.plan)
  return (
    <li
      className={`border-t border-hair py-2 pl-3 ${here ? 'border-l-[3px] border-l-mark' : beside ? 'border-l-[3px] border-l-brass' : 'border-l-[3px] border-l-transparent'}`}
    >
      <div className="flex items-baseline gap-2">
        {here ? (
          <b className="truncate">{each.name}</b>
        ) : (
          <Link className="link truncate font-semibold" to={`${at}/compare`}>
            {each.name}
          </Link>
        )}
        {each.chosen && <span className="text-small text-mark">the job goes by it</span>}
        <span className="ml-auto text-small text-ink-2">
          draft <span className="n">{each.draft}</span>
        </span>
      </div>
      <div className="flex items-center gap-2 text-small text-ink-2">
        {each.stops > 0 && (
          <span className="inline-flex items-center gap-1">
            <Mark state="stop" size={10} /> <span className="n">{each.stops}</span>
          </span>
        )}
        {each.looks > 0 && (
          <span className="inline-flex items-center gap-1">
            <Mark state="look" size={10} /> <span className="n">{each.looks}</span>
          </span>
        )}
        {each.answered && each.ready && <span>nothing open</span>}
        {!each.answered && <span>not worked out yet</span>}
        {!here && (
          <button className="link ml-auto" onClick={onBeside} aria-pressed={beside}>
            {beside ? 'beside it now' : 'put beside'}
          </button>
        )}
      </div>
      {each.note && <p className="text-small">{each.note}</p>}
      {here && <Kept each={each} />}
    </li>
  )
}

// Its name, and why it is chosen or kept.
function Kept({ each }: { each: Variant }) {
  const { job } = useFrame()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const [name, setName] = useState(each.name)
  const [note, setNote] = useState(each.note)
  const [refused, setRefused] = useState('')
  const path = { path: { id: each.plan } }
  const done = async (doing: Promise<unknown>) => {
    try {
      await doing
      setRefused('')
      await cache.invalidateQueries({ queryKey: ['jobs'] })
      return true
    } catch (error) {
      setRefused((error as Error).message)
      return false
    }
  }
  const choose = async () => {
    if (await done(ask(api.POST('/api/plans/{id}/choose', { params: path, body: { note } }))))
      void navigate(`${jobAt(job.number)}/compare`)
  }
  return (
    <form
      className="mt-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        void done(ask(api.PATCH('/api/plans/{id}/variant', { params: path, body: { name, note } })))
      }}
    >
      <label className="block text-small text-ink-2">
        Name
        <input
          required
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="mb-1 block w-full border border-hair-strong bg-paper px-2 py-1 text-body text-ink"
        />
      </label>
      <label className="text-small text-ink-2">
        Why it is {each.chosen ? 'chosen' : 'kept'}
        <textarea
          rows={2}
          maxLength={300}
          value={note}
          onChange={(event) => setNote(event.target.value)}
          className="block w-full border border-hair-strong bg-paper px-2 py-1 text-body text-ink"
        />
      </label>
      {refused && (
        <p role="alert" className="text-small text-red-edge">
          {refused}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <button className="press-2" disabled={note === each.note && name === each.name}>
          Keep it so
        </button>
        {!each.chosen && (
          <button type="button" className="press" onClick={() => void choose()}>
            Choose this plan
          </button>
        )}
      </div>
    </form>
  )
}

// Another plan of the job, as this one is now, for another machine where one is named.
function Copy() {
  const { job, answer } = useFrame()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const { data: library } = useLibrary()
  const [name, setName] = useState('')
  const [machine, setMachine] = useState('')
  const [refused, setRefused] = useState('')
  const [making, setMaking] = useState(false)
  const machines = (library?.items ?? []).filter((item) => item.kind === 'machines')
  const make = async (event: React.FormEvent) => {
    event.preventDefault()
    if (making) return
    setMaking(true)
    try {
      const made = await ask(
        api.POST('/api/plans/{id}/copies', {
          params: { path: { id: answer.id } },
          body: { name, machine, edits: [] },
        }),
      )
      await cache.invalidateQueries({ queryKey: ['jobs', job.number, 'variants'] })
      void navigate(`${jobAt(job.number, made.plan)}/compare?with=${answer.id}`)
    } catch (error) {
      setRefused((error as Error).message)
      setMaking(false)
    }
  }
  return (
    <form
      aria-label="Copy this plan"
      onSubmit={(event) => void make(event)}
      className="mt-4 border-t border-ink pt-2"
    >
      <h2 className="font-semibold">Copy this plan</h2>
      <label className="mt-1 block text-small text-ink-2">
        Its name
        <input
          required
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="block w-full border border-hair-strong bg-paper px-2 py-1 text-body text-ink"
        />
      </label>
      <label className="mt-1 block text-small text-ink-2">
        On
        <select
          value={machine}
          onChange={(event) => setMachine(event.target.value)}
          className="block w-full border border-hair-strong bg-paper px-1 py-1 text-body text-ink"
        >
          <option value="">the same machines</option>
          {machines.map((item) => (
            <option key={item.key} value={item.key}>
              {String(item.data.name)}
            </option>
          ))}
        </select>
      </label>
      {refused && (
        <p role="alert" className="mt-1 text-small text-red-edge">
          {refused}
        </p>
      )}
      <button className="press-2 mt-2" disabled={making}>
        {making ? 'copying …' : 'Copy'}
      </button>
    </form>
  )
}
