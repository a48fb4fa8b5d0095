import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, ask, type Edit, type Offer } from '../../api/client'
import { Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'

// What could be cut next from this side, each with a tool that fits; and regions typed by hand.
export function Adder({
  setup,
  onDone,
}: {
  setup: string
  onDone: (operation: string | null) => void
}) {
  const { answer, session } = useFrame()
  const box = useRef<HTMLDivElement>(null)
  const [adding, setAdding] = useState(false)
  const { data, error } = useQuery({
    queryKey: ['offers', answer.id, setup, answer.revision],
    meta: { shown: true },
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/setups/{setup}/offers', {
          params: { path: { id: answer.id, setup } },
        }),
      ),
  })
  useEffect(() => {
    box.current?.querySelector<HTMLElement>('dd button, button')?.focus()
    box.current?.scrollIntoView({ block: 'nearest' })
  }, [data])
  const take = async (edits: Edit[]) => {
    if (adding) return // a second press before the first is saved adds no second one
    setAdding(true)
    const added = edits.find((each) => each.do === 'add_operation')?.operation as
      { id: string } | undefined
    try {
      await session.edit(edits)
      onDone(added?.id ?? null)
    } catch {
      setAdding(false) // the sentence stands above
    }
  }
  const walk = (event: React.KeyboardEvent) => {
    const by =
      event.key === 'ArrowDown' || event.key === 'ArrowRight'
        ? 1
        : event.key === 'ArrowUp' || event.key === 'ArrowLeft'
          ? -1
          : 0
    if (event.key === 'Escape') onDone(null)
    if (!by) return
    event.preventDefault()
    event.stopPropagation()
    const buttons = [...(box.current?.querySelectorAll('button') ?? [])]
    buttons[
      (buttons.indexOf(document.activeElement as HTMLButtonElement) + by + buttons.length) %
        buttons.length
    ]?.focus()
  }
  const groups = [...new Set(data?.map((offer) => offer.group))]
  return (
    <div
      ref={box}
      role="group"
      aria-label="Add an operation"
      className="border-b border-l-[3px] border-brass border-b-hair bg-brass-wash px-4 py-2"
      onKeyDown={walk}
    >
      <div className="mb-1.5 flex items-baseline gap-3">
        <b>What to cut next</b>
        <span className="text-small text-ink-2">
          {adding ? 'adding …' : 'what this side shows and no operation takes yet'}
        </span>
        <button className="link ml-auto text-small" onClick={() => onDone(null)}>
          Close
        </button>
      </div>
      {error && (
        <p role="alert" className="text-red-edge">
          {(error as Error).message}
        </p>
      )}
      {!data && !error && <p className="text-ink-2">Looking at the part …</p>}
      {data?.every((offer) => offer.group === 'By hand') && (
        <p className="text-ink-2">Everything that can be seen from this side is planned.</p>
      )}
      <dl className="grid grid-cols-[190px_1fr] gap-y-1">
        {groups.map((group) => (
          <div key={group} className="contents">
            <dt className="text-ink-2">{group}</dt>
            <dd className="flex flex-wrap gap-1.5">
              {data
                ?.filter((offer) => offer.group === group && !offer.rare)
                .map((offer) => (
                  <button
                    key={offer.label}
                    className="border border-hair-strong bg-paper px-2 leading-6 hover:border-ink focus:border-ink"
                    onClick={() => void take(offer.edits as Edit[])}
                  >
                    <b>{offer.label}</b>{' '}
                    <span className="text-small text-ink-2">{offer.tool || 'no tool fits'}</span>
                  </button>
                ))}
              <Lacks of={data?.filter((offer) => offer.group === group) ?? []} />
              {data
                ?.filter((offer) => offer.group === group && offer.rare)
                .map((offer) => (
                  <button
                    key={offer.label}
                    className="link px-1 text-small leading-6"
                    title={offer.tool || 'no tool fits'}
                    onClick={() => void take(offer.edits as Edit[])}
                  >
                    {offer.label}
                  </button>
                ))}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  )
}

// Which tool the shop lacks, once for all that is offered of it.
function Lacks({ of }: { of: Offer[] }) {
  const lacks = of.find((each) => each.lacks)?.lacks
  return lacks ? (
    <p className="order-last basis-full text-small text-ink-2">
      <Sentence {...lacks} />
    </p>
  ) : null
}
