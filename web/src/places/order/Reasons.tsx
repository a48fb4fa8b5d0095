import { useState } from 'react'
import type { Edit, Evaluation } from '../../api/client'
import { Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'
import { after, before, chain, drawnAs, type Reason } from './reasons'

type Operation = Evaluation['setups'][number]['operations'][number]

// Why the operation that is looked at stands where it does, and why it comes after another one.
export function Reasons({
  of,
  operations,
  reasons,
  pinned,
}: {
  of: Operation
  operations: Operation[]
  reasons: Reason[]
  pinned: boolean
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
      <Said reasons={needs} operations={operations} word="after" end="first" />
      <Said reasons={leads} operations={operations} word="before" end="then" />
      <Between key={of.id} {...{ of, operations, reasons }} />
    </section>
  )
}

function Said({
  reasons,
  operations,
  word,
  end,
}: {
  reasons: Reason[]
  operations: Operation[]
  word: string
  end: 'first' | 'then'
}) {
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
            <span className="text-small text-ink-3">{drawnAs(each).label}</span>
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
}: {
  of: Operation
  operations: Operation[]
  reasons: Reason[]
}) {
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
        <p className="mt-1">
          Nothing speaks against it: <span className="n">{then.number}</span> could come before{' '}
          <span className="n">{first.number}</span>.
        </p>
      )}
      <Said reasons={[...way].reverse()} operations={operations} word="after" end="first" />
    </div>
  )
}
