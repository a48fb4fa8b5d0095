import type { Edit, Evaluation } from '../../api/client'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'
import { seconds } from '../time/goes'
import type { Found } from './reasons'

type Operation = Evaluation['setups'][number]['operations'][number]

// What the shortest order brings, or why there is none.
export function Better({ data, operations }: { data: Found; operations: Operation[] }) {
  const number = (id: string) => operations.find((each) => each.id === id)?.number ?? ''
  return (
    <section aria-label="The shortest order" className="mb-4">
      <h2 className="mb-1 font-semibold">The shortest order</h2>
      {data.ring.length > 0 ? (
        <Ring data={data} number={number} />
      ) : data.none ? (
        <p role="alert">
          No order meets all reasons
          {data.stuck.length > 0 &&
            `: ${data.stuck.map((id) => number(id)).join(', ')} keeps a place that they do not allow. Let it go`}
          .
        </p>
      ) : (
        data.found && <Known found={data.found} data={data} number={number} />
      )}
      {data.schools.map((each, k) => (
        <School key={k} school={each} />
      ))}
    </section>
  )
}

// The other side of what the trade disagrees about, with what it brings here.
function School({ school }: { school: Found['schools'][number] }) {
  const { session } = useFrame()
  const more = school.one_part_s
  return (
    <div className="mt-2 border-t border-hair pt-1.5 text-small">
      <p>
        Or: <Sentence text={school.said.text} values={school.said.values} />.{' '}
        <b className="n">
          {more < 0 ? '−' : '+'}
          {seconds(Math.abs(more))}
        </b>{' '}
        a part
        {school.stops > 0
          ? ', and it stops the plan:'
          : school.looks.length > 0
            ? ', and to look at then:'
            : ', nothing to look at.'}
      </p>
      <ul>
        {school.looks.slice(0, 3).map((look, k) => (
          <li key={k} className="text-ink-2">
            <Sentence text={look.text} values={look.values} />
          </li>
        ))}
        {school.looks.length > 3 && (
          <li className="text-ink-3">and {school.looks.length - 3} more</li>
        )}
      </ul>
      {school.stops === 0 && (
        <button className="press-2 mt-1" onClick={() => void session.send(school.edits as Edit[])}>
          Do it that way
        </button>
      )}
    </div>
  )
}

function Ring({ data, number }: { data: Found; number: (id: string) => number | string }) {
  return (
    <div role="alert">
      <p>No order meets these reasons; each leads to the next, and the last back to the first.</p>
      <ul>
        {data.ring.map((each) => (
          <li key={each.then} className="border-t border-hair py-1">
            <b className="n">{number(each.then)}</b>:{' '}
            <Sentence text={each.said.text} values={each.said.values} />
          </li>
        ))}
      </ul>
    </div>
  )
}

function Known({
  found,
  data,
  number,
}: {
  found: NonNullable<Found['found']>
  data: Found
  number: (id: string) => number | string
}) {
  const { session } = useFrame()
  const { better } = found
  return (
    <>
      {better ? (
        <>
          <p>
            {better.one_part_s > 0 ? (
              <>
                <b className="n">−{seconds(better.one_part_s)}</b> a part,{' '}
                <b className="n">−{clock(better.batch_s)}</b> the batch
              </>
            ) : (
              <>
                It puts right what stands in a wrong order, and takes{' '}
                <b className="n">{seconds(-better.one_part_s)}</b> more a part
              </>
            )}
            : {better.moved.map((id) => number(id)).join(', ')}{' '}
            {better.moved.length > 1 ? 'are' : 'is'} moved. Worked out as a plan of its own: it
            stops nothing, and brings nothing to look at.
          </p>
          <button className="press mt-2" onClick={() => void session.send(better.edits as Edit[])}>
            Take this order
          </button>
        </>
      ) : (
        <p>
          {!found.gave_up
            ? 'None that keeps the reasons takes less.'
            : data.tried > 0
              ? `${data.tried} orders were worked out whole, and each stops something or brings something to look at.`
              : 'A shorter one keeps all reasons. Whether it stops anything is known once it is worked out whole.'}
        </p>
      )}
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-3 text-small text-ink-2">
        <dt>between its operations, a cycle takes now</dt>
        <dd className="n">{seconds(found.now_s)}</dd>
        {better && (
          <>
            <dt>in the shortest order found</dt>
            <dd className="n">{seconds(better.seconds)}</dd>
          </>
        )}
        {!better && found.gave_up && found.short_s < found.now_s && (
          <>
            <dt>in a shorter one that is not worked out whole yet</dt>
            <dd className="n">{seconds(found.short_s)}</dd>
          </>
        )}
        <dt>{found.proven ? 'no order takes less than' : 'no order can take less than'}</dt>
        <dd className="n">{seconds(found.least_s)}</dd>
        {data.tried > 0 && (
          <>
            <dt>orders worked out as whole plans</dt>
            <dd className="n">{data.tried}</dd>
          </>
        )}
      </dl>
      {data.prices.length > 0 && (
        <ul className="mt-2 text-small">
          {data.prices.map((each) => (
            <li key={`${each.first} ${each.then}`} className="border-t border-hair py-1">
              {each.first ? (
                <>
                  That <span className="n">{number(each.then)}</span> comes after{' '}
                  <span className="n">{number(each.first)}</span>, a habit, costs
                </>
              ) : (
                'What keeps its place costs'
              )}{' '}
              <b className="n">{seconds(each.seconds)}</b> a cycle between operations.
            </li>
          ))}
        </ul>
      )}
    </>
  )
}
