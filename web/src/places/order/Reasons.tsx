import { useState } from 'react'
import type { Edit, Evaluation } from '../../api/client'
import { Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'
import { after, before, chain, drawnAs, type Reason } from './reasons'
import { Because, useSaidOrder } from './SaidOrder'

type Operation = Evaluation['setups'][number]['operations'][number]

// Why the operation that is looked at stands where it does, and why it comes after another one.
export function Reasons({
  of,
  operations,
  reasons,
  pinned,
  setup,
}: {
  of: Operation
  operations: Operation[]
  reasons: Reason[]
  pinned: boolean
  setup: string
}) {
  const { session } = useFrame()
  const keep = (event: React.ChangeEvent<HTMLInputElement>) =>
    session.send([
      { do: 'change', on: `operation:${of.id}`, fields: { pinned: event.target.checked } } as Edit,
    ])
  const mine = before(reasons, of.id)
  const needs = mine.some((each) => each.direct) ? mine.filter((each) => each.direct) : mine
  const leads = after(reasons, of.id).filter((each) => each.direct)
  return (
    <section aria-label="Why it stands there">
      <div className="flex items-baseline gap-2">
        <h2 className="font-semibold">
          Why <span className="n">{of.number}</span> stands there
        </h2>
        <label className="ml-auto inline-flex items-center gap-1.5 text-small text-ink-2">
          <input type="checkbox" checked={pinned} onChange={keep} />
          keeps its place
        </label>
      </div>
      <p className="truncate text-small text-ink-2">{of.title}</p>
      {needs.length === 0 && <p className="mt-1">Nothing has to come before it.</p>}
      <Said {...{ operations, setup }} reasons={needs} word="after" end="first" />
      <Said {...{ operations, setup }} reasons={leads} word="before" end="then" />
      <Between key={of.id} {...{ of, operations, reasons, setup }} />
      <Aside {...{ operations, setup }} />
    </section>
  )
}

function Said({
  reasons,
  operations,
  word,
  end,
  setup,
}: {
  reasons: Reason[]
  operations: Operation[]
  word: string
  end: 'first' | 'then'
  setup: string
}) {
  const { say, unsay } = useSaidOrder(setup)
  const number = (id: string) => operations.find((each) => each.id === id)?.number
  return (
    <ul>
      {reasons.map((each) => (
        <li
          key={`${each.first} ${each.then}`}
          className="grid grid-cols-[76px_1fr] gap-x-2 border-t border-hair py-1.5 first:mt-1"
        >
          <b>
            {word} <span className="n">{number(each[end])}</span>
          </b>
          <span>
            <Sentence text={each.said.text} values={each.said.values} />{' '}
            <span className="text-small text-ink-3">{drawnAs(each).label}</span>{' '}
            {each.kind === 'practice' && (
              <Because
                words="Set it aside"
                label={`Why the habit is set aside, ${word} ${number(each[end])}`}
                onSay={(why) => say({ first: each.first, then: each.then, free: true, why })}
              />
            )}
            {each.kind === 'own' && (
              <button className="link text-small" onClick={() => unsay(each)}>
                Let it go
              </button>
            )}
          </span>
        </li>
      ))}
    </ul>
  )
}

// The question asked of any two: over which others one leads to the other.
function Between({
  of,
  operations,
  reasons,
  setup,
}: {
  of: Operation
  operations: Operation[]
  reasons: Reason[]
  setup: string
}) {
  const { say } = useSaidOrder(setup)
  const [other, setOther] = useState('')
  const asked = operations.find((each) => each.id === other)
  const first = asked && asked.number < of.number ? asked : of
  const then = first === of ? asked : of
  const way = then ? chain(reasons, first.id, then.id) : []
  return (
    <div className="border-t border-hair pt-1.5">
      <label className="flex items-center gap-2">
        Why not the other way round with
        <select
          aria-label="Another operation"
          value={other}
          onChange={(event) => setOther(event.target.value)}
          className="border border-hair-strong bg-paper px-1 py-0.5"
        >
          <option value="">…</option>
          {operations
            .filter((each) => each.id !== of.id)
            .map((each) => (
              <option key={each.id} value={each.id}>
                {each.number}
              </option>
            ))}
        </select>
      </label>
      {then && way.length === 0 && (
        <div className="mt-1">
          Nothing speaks against it: <span className="n">{then.number}</span> could come before{' '}
          <span className="n">{first.number}</span>.{' '}
          <Because
            words={`Keep ${then.number} after ${first.number}`}
            label={`Why ${then.number} comes after ${first.number}`}
            onSay={(why) => say({ first: first.id, then: then.id, free: false, why })}
          />
        </div>
      )}
      <Said {...{ operations, setup }} reasons={[...way].reverse()} word="after" end="first" />
    </div>
  )
}

// Habits of the setup that were set aside, and with which words.
function Aside({ operations, setup }: { operations: Operation[]; setup: string }) {
  const { said, unsay } = useSaidOrder(setup)
  const number = (id: string) => operations.find((each) => each.id === id)?.number
  const aside = said.filter((each) => each.free && number(each.first) && number(each.then))
  if (aside.length === 0) return null
  return (
    <ul aria-label="Habits set aside" className="mt-2 border-t border-hair pt-1.5 text-small">
      {aside.map((each) => (
        <li key={`${each.first} ${each.then}`}>
          Set aside: <span className="n">{number(each.then)}</span> after{' '}
          <span className="n">{number(each.first)}</span>, {each.why}.{' '}
          <button className="link" onClick={() => unsay(each)}>
            Hold to it again
          </button>
        </li>
      ))}
    </ul>
  )
}
