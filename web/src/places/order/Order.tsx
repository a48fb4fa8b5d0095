import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useSearchParams } from 'react-router'
import { api, ask, type Evaluation } from '../../api/client'
import { useRested } from '../../ui/rested'
import { useLibrary } from '../../api/hooks'
import { AskAgain, Empty, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { Better } from './Better'
import { Field } from './Field'
import { Further } from './Further'
import { useFurther } from './further'
import { Magazine } from './Magazine'
import { Reasons } from './Reasons'
import { KINDS, type Found } from './reasons'

const REST_MS = 600

// Why a setup's operations come in their order, and a shorter one that keeps the reasons.
export function Order() {
  const { evaluation, session } = useFrame()
  const [query, setQuery] = useSearchParams()
  useHotkeys('mod+z', () => void session.undo(), { preventDefault: true })
  useHotkeys(['mod+shift+z', 'mod+y'], () => void session.redo(), { preventDefault: true })
  if (!evaluation) return <Loading what="its operations" />
  const setups = evaluation.setups.filter((each) => each.operations.length > 0)
  const shown = setups.find((each) => each.id === query.get('setup')) ?? setups[0]
  if (evaluation.problem || !shown)
    return (
      <Empty title="Nothing to put in an order yet">
        {evaluation.problem ||
          'Plan what is cut in the setups; then it is told here what has to come first.'}
      </Empty>
    )
  return (
    <div className="grid h-full grid-rows-[auto_1fr]">
      <div role="tablist" aria-label="Setups" className="flex gap-1 border-b border-hair px-5 pt-2">
        {setups.map((each) => (
          <button
            key={each.id}
            role="tab"
            aria-selected={each === shown}
            onClick={() => setQuery({ setup: each.id }, { replace: true })}
            className={`border border-b-0 px-3 py-1 ${each === shown ? 'border-hair-strong bg-paper font-semibold' : 'border-transparent text-ink-2 hover:text-ink'}`}
          >
            Setup <span className="n">{each.number}</span>
          </button>
        ))}
      </div>
      <Asked key={shown.id} setup={shown} />
    </div>
  )
}

function Asked({ setup }: { setup: Evaluation['setups'][number] }) {
  const { answer } = useFrame()
  const [settled, setSettled] = useState(-1)
  useRested(answer.revision, REST_MS, setSettled)
  const { data, error, refetch } = useQuery({
    queryKey: ['order', answer.id, settled, setup.id],
    enabled: settled === answer.revision,
    staleTime: Infinity,
    placeholderData: (before: Found | undefined) => before,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/setups/{setup}/order', {
          params: { path: { id: answer.id, setup: setup.id } },
        }),
      ) as Promise<Found>,
  })
  const further = useFurther(answer.id, answer.revision, setup.id, data)
  if (error)
    return (
      <div className="px-5 py-3">
        <AskAgain again={() => void refetch()} error={error} />
      </div>
    )
  if (!data)
    return (
      <p role="status" className="px-5 py-3 text-ink-3">
        looking at what each operation would meet in another order …
      </p>
    )
  return <Shown setup={setup} data={further.found ?? data} further={further} />
}

function Shown({
  setup,
  data,
  further,
}: {
  setup: Evaluation['setups'][number]
  data: Found
  further: ReturnType<typeof useFurther>
}) {
  const { answer } = useFrame()
  const { operations } = setup
  const [chosen, setChosen] = useState('')
  const looked = operations.find((each) => each.id === chosen) ?? operations.at(-1)
  if (!looked) return null
  const planned = answer.plan.setups?.find((each) => each.id === setup.id)?.operations ?? []
  const pinned = new Set(planned.filter((each) => each.pinned).map((each) => each.id))
  const known = new Set(operations.map((each) => each.id))
  const reasons = data.reasons.filter((each) => known.has(each.first) && known.has(each.then))
  const kinds = KINDS.filter(({ kind }) => reasons.some((each) => each.kind === kind))
  const better = data.found?.better?.order.every((id) => known.has(id)) ? data.found.better : null
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_400px]">
      <section aria-label="Order" className="min-h-0 overflow-auto px-5 py-3">
        <ul className="mb-2 flex flex-wrap gap-x-5 gap-y-1 text-small text-ink-2">
          {kinds.map(({ kind, label, stroke, dash }) => (
            <li key={kind} className="flex items-center gap-1.5">
              <svg width={26} height={8} aria-hidden>
                <path d="M0 4 H26" className={stroke} strokeWidth={2} strokeDasharray={dash} />
              </svg>
              {label}
            </li>
          ))}
          <li className="flex items-center gap-1.5">
            <svg width={8} height={14} aria-hidden>
              <path d="M1 1 H6 V13 H1" className="fill-none stroke-brass" strokeWidth={2} />
            </svg>
            where it could stand while the others stay
          </li>
        </ul>
        <Field
          operations={operations}
          reasons={reasons}
          better={better?.order ?? null}
          pinned={pinned}
          looked={looked.id}
          onLook={setChosen}
        />
      </section>
      <section className="min-h-0 overflow-y-auto border-l border-hair-strong bg-paper px-5 py-3">
        <Better data={data} operations={operations} />
        <Further further={further} left={data.further} />
        <Reasons
          of={looked}
          operations={operations}
          reasons={reasons}
          pinned={pinned.has(looked.id)}
          setup={setup.id}
        />
        <OfMachine setup={setup.id} />
      </section>
    </div>
  )
}

function OfMachine({ setup }: { setup: string }) {
  const { answer } = useFrame()
  const { data: library } = useLibrary()
  const machine = answer.plan.setups?.find((each) => each.id === setup)?.machine
  const known = library?.items.find((each) => each.kind === 'machines' && each.key === machine)
  return machine && known ? <Magazine machine={machine} name={String(known.data.name)} /> : null
}
