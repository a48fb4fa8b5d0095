import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../api/client'
import { Figure, Sentence } from '../../ui/Figure'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { Staircase } from './Staircase'
import type { Chain } from './steps'

function useChains() {
  const { answer } = useFrame()
  return useQuery({
    queryKey: ['chains', answer.id, answer.revision],
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.GET('/api/plans/{id}/chains', { params: { path: { id: answer.id } } })),
  })
}

// What adds up over sizes whose ends are made in different setups or with different tools.
export function Chains() {
  const { data, error, refetch } = useChains()
  const [open, setOpen] = useState('')
  return (
    <section className="border-b border-hair px-5 py-3" aria-label="What adds up">
      <h2 className="mb-1.5 font-semibold">What adds up</h2>
      {error ? (
        <AskAgain again={() => void refetch()} />
      ) : !data ? (
        <p role="status" className="text-ink-2">
          working out …
        </p>
      ) : data.length === 0 ? (
        <p className="text-ink-2">
          Every size with a band is made at once: with one tool, in one holding, from one side.
        </p>
      ) : (
        <ul>
          {data.map((chain) => (
            <li key={chain.asked} className="border-t border-hair py-1.5 first:border-0">
              <Line
                chain={chain}
                open={open === chain.asked}
                onOpen={() => setOpen(open === chain.asked ? '' : chain.asked)}
              />
              {open === chain.asked && chain.links.length > 0 && <Staircase chain={chain} />}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function Line({ chain, open, onOpen }: { chain: Chain; open: boolean; onOpen: () => void }) {
  if (chain.unknown)
    return (
      <p>
        <b className="font-semibold">{chain.what}</b>{' '}
        <span className="text-ink-2">
          is not known: <Sentence {...chain.unknown} />.
        </span>
      </p>
    )
  const over = chain.mostly_mm > chain.allowed_mm
  return (
    <p className="flex flex-wrap items-baseline gap-x-3">
      <b className="font-semibold">{chain.what}</b>
      <span className="text-ink-2">
        {chain.ends.map((end, k) => (
          <span key={k}>
            {k > 0 && ' to '}
            <Sentence {...end} />
          </span>
        ))}
      </span>
      <span className={over ? 'text-red' : ''}>
        ±<Figure value={chain.mostly_mm} quantity="size" /> of ±
        <Figure value={chain.allowed_mm} quantity="size" />
        <span className="text-ink-2">
          , at the worst ±<Figure value={chain.worst_mm} quantity="size" />
        </span>
      </span>
      <button className="link ml-auto text-small" aria-expanded={open} onClick={onOpen}>
        {open ? 'close' : `of ${chain.links.length} things`}
      </button>
    </p>
  )
}
