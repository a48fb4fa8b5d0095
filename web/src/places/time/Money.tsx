import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../api/client'
import type { components } from '../../api/schema'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useRested } from '../../ui/rested'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { AtOnce } from './AtOnce'
import { ByHand } from './ByHand'
import { Curve } from './Curve'

type Found = components['schemas']['QuantitiesOut']
const REST_MS = 600

// What the batch costs as far as it is known, of what, and how a part of it goes with how many there are.
export function Money() {
  const { answer, evaluation } = useFrame()
  const [settled, setSettled] = useState(-1)
  useRested(answer.revision, REST_MS, setSettled)
  const { data, error, refetch } = useQuery({
    queryKey: ['quantities', answer.id, settled],
    staleTime: Infinity,
    placeholderData: (before: Found | undefined) => before,
    enabled: settled === answer.revision,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/quantities', { params: { path: { id: answer.id } } }),
      ) as Promise<Found>,
  })
  const quantity = answer.plan.quantity ?? 1
  if (error)
    return (
      <div className="mt-5">
        <AskAgain again={() => void refetch()} error={error} />
      </div>
    )
  if (!data)
    return (
      <p role="status" className="mt-5 text-ink-3">
        working out what it costs …
      </p>
    )
  return (
    <>
      {evaluation && <ByHand found={data.setups} evaluation={evaluation} />}
      {data.at_once && evaluation && <AtOnce found={data.at_once} evaluation={evaluation} />}
      <section
        aria-label="What it costs"
        className="mt-5 grid grid-cols-[minmax(0,1fr)_340px] gap-8"
      >
        <div>
          <h2 className="mb-1.5 font-semibold">
            {data.whole ? 'Costs' : 'Costs, as far as they are known,'}{' '}
            <span className="n">{money(data.known)}</span>
            <span className="font-normal text-ink-2">
              {' '}
              · <span className="n">{money(data.known / quantity)}</span> each
            </span>
          </h2>
          <table className="w-full border-t border-hair-strong">
            <tbody>
              {data.parts.map((part) => (
                <tr
                  key={part.name}
                  className="[&>*]:border-b [&>*]:border-hair [&>*]:py-1 [&>*]:pr-3"
                >
                  <th className="text-left font-normal whitespace-nowrap">{part.name}</th>
                  <td className="text-small text-ink-2">
                    <Sentence text={part.said.text} values={part.said.values} />
                  </td>
                  <td className="n text-right">
                    {part.value === null ? (
                      <span className="text-small text-ink-3">not counted</span>
                    ) : (
                      money(part.value)
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {data.no_dearer && (
            <p className="mt-1.5 text-ink-2">
              A lower price begins at <span className="n">{data.no_dearer.quantity}</span>: they
              cost <span className="n">{money(data.no_dearer.known)}</span> in all,{' '}
              <span className="n">{quantity}</span> cost{' '}
              <span className="n">{money(data.known)}</span>.
            </p>
          )}
        </div>
        <Curve
          ordered={quantity}
          rows={data.curve.map((each) => ({
            quantity: each.quantity,
            value: each.known > 0 ? each.known / each.quantity : each.batch_s / each.quantity,
          }))}
          said={data.curve[0] && data.curve[0].known > 0 ? money : clock}
          title={
            data.curve[0] && data.curve[0].known > 0
              ? 'Cost of a part by quantity'
              : 'Time of a part by quantity'
          }
        />
      </section>
    </>
  )
}

const money = (value: number) =>
  value.toLocaleString('en', { minimumFractionDigits: 2, maximumFractionDigits: 2 })
