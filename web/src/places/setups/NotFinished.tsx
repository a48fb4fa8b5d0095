import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, ask, type Edit, type Schemas } from '../../api/client'
import { Figure, Sentence } from '../../ui/Figure'
import { changed } from '../../ui/Fixes'
import { useFrame } from '../frame'
import { standingShown } from '../standing'

type Standing = Schemas['StandingOut']

// What still stands over the part after its last setup: no mistake while planning, but not a part yet.
export function NotFinished({ onAdd }: { onAdd: () => void }) {
  const { evaluation } = useFrame()
  if (!evaluation || evaluation.left.length === 0) return null
  return (
    <Popover className="contents">
      <PopoverButton className="flex items-center gap-1.5 hover:text-ink">
        <span aria-hidden className="inline-block size-2.5 border border-dashed border-ink-3" />
        <span className="underline decoration-hair-strong underline-offset-4">
          not finished: <Figure value={evaluation.left_mm3} quantity="volume" /> left
        </span>
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'top start', gap: 8, padding: 12 }}
        className="z-40 w-[520px] border border-hair-strong bg-surface px-4 py-3 text-body"
      >
        {({ close }) => (
          <>
            <h2 className="font-semibold">Still stands after the last setup</h2>
            <Places onTaken={close} />
            <p className="mt-2 flex items-center justify-between gap-3 border-t border-hair pt-2">
              <span className="text-small text-ink-2">
                Until it is cut, the part is not the drawing’s.
              </span>
              <button
                className="press-2"
                onClick={() => {
                  close()
                  onAdd()
                }}
              >
                All that can be cut
              </button>
            </p>
          </>
        )}
      </PopoverPanel>
    </Popover>
  )
}

// Place by place, each with what was tried and cuts it.
function Places({ onTaken }: { onTaken: () => void }) {
  const { answer, evaluation } = useFrame()
  useEffect(() => {
    standingShown.set(true)
    return () => standingShown.set(false)
  }, [])
  const { data, error } = useQuery({
    queryKey: ['standing', answer.id, answer.revision],
    meta: { shown: true },
    staleTime: Infinity,
    queryFn: () =>
      ask(api.GET('/api/plans/{id}/standing', { params: { path: { id: answer.id } } })),
  })
  return (
    <table className="mt-1 w-full">
      <thead className="text-left text-small text-ink-2">
        <tr className="[&>th]:font-normal">
          <th>Where</th>
          <th className="text-right">Thick</th>
          <th className="text-right">Volume</th>
        </tr>
      </thead>
      <tbody>
        {evaluation?.left.map((each, k) => (
          <tr key={k} className="border-t border-hair align-top">
            <td className="py-1">
              {each.count > 1 && <span className="n">{each.count} × </span>}
              <Sentence {...each.where} />
              <div className="mt-0.5 flex flex-col items-start gap-1">
                {error ? (
                  <span role="alert" className="text-small text-ink-2">
                    {error.message}
                  </span>
                ) : data ? (
                  <CutsIt standing={data.find(there(each.where))} onTaken={onTaken} />
                ) : (
                  <span role="status" className="text-small text-ink-3">
                    trying what would cut it …
                  </span>
                )}
              </div>
            </td>
            <td className="py-1 pl-4 text-right whitespace-nowrap">
              <Figure value={each.thick_mm} quantity="size" />
            </td>
            <td className="py-1 pl-4 text-right whitespace-nowrap">
              <Figure value={each.volume_mm3} quantity="volume" />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

// Matched by what they are called: while a newer plan is worked out, the places shown are those of the one before.
const there = (where: Standing['where']) => (each: Standing) =>
  JSON.stringify(each.where) === JSON.stringify(where)

function CutsIt({ standing, onTaken }: { standing: Standing | undefined; onTaken: () => void }) {
  const { session } = useFrame()
  if (!standing || standing.offers.length === 0)
    return (
      <span className="text-small text-ink-2">
        No tool of the shop cuts it from a side that is planned; turn the part over, or change what
        is planned.
      </span>
    )
  return standing.offers.map((offer, k) => (
    <span key={k} className="flex items-baseline gap-2">
      <button
        className={k === 0 ? 'press text-left' : 'press-2 text-left'}
        onClick={() => {
          onTaken()
          session.send(offer.edits as Edit[])
        }}
      >
        <Sentence text={offer.label} values={offer.values} />
      </button>
      <span className="n text-small text-ink-2">{changed(offer.one_part_s)}</span>
    </span>
  ))
}
