import { useWords } from '../../api/hooks'
import { useFrame } from '../frame'

// A plan without an answer: what is in it, and how to make it smaller, for the answers are what the other view is made of.
export function Unanswered({ why }: { why: string }) {
  const { answer, session } = useFrame()
  const { data: words } = useWords()
  const setups = answer.plan.setups ?? []
  const nothing = !answer.plan.part?.geometry && setups.length === 0
  return (
    <div className="mx-auto max-w-2xl px-6 py-8">
      <h1 className="mb-1 text-[20px] font-semibold">
        {nothing ? 'There is no part to plan yet' : 'It can’t be worked out'}
      </h1>
      <p role="alert" className="mb-3">
        {why}
      </p>
      <p className="mb-4 text-ink-2">
        Ctrl Z takes the last change back. Part and blank stand under{' '}
        <a className="link" href="part">
          Part
        </a>
        .
      </p>
      {setups.map((setup, place) => (
        <section key={setup.id} className="mb-3">
          <h2 className="border-b border-hair-strong py-1 font-semibold">
            Setup <span className="n">{place + 1}</span>
          </h2>
          <ul>
            {(setup.operations ?? []).map((op, k) => (
              <li key={op.id} className="flex items-center gap-3 border-b border-hair py-1">
                <span className="n w-8">{10 * (k + 1)}</span>
                <span>{words?.kinds[op.kind ?? '']?.name ?? op.kind}</span>
                <button
                  className="link ml-auto min-h-6"
                  onClick={() => session.send([{ do: 'remove_operation', operation: op.id }])}
                >
                  Take out
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  )
}
