import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import type { components } from '../../api/schema'
import { Sentence } from '../../ui/Figure'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'

type Way = components['schemas']['PlaceWayOut']

// Where else the zero could be, and its sides together or apart; asked for, since each is a plan of its own.
export function PlaceWays({ station }: { station: string }) {
  const [open, setOpen] = useState(false)
  return (
    <div className="mt-1">
      <button className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
        Where else could it be?
      </button>
      {open && <Asked station={station} />}
    </div>
  )
}

function Asked({ station }: { station: string }) {
  const { answer } = useFrame()
  const { data, error, refetch } = useQuery({
    queryKey: ['place-ways', answer.id, answer.revision, station],
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/stations/{station}/place-ways', {
          params: { path: { id: answer.id, station } },
        }),
      ),
  })
  if (error) return <AskAgain again={() => void refetch()} />
  if (!data)
    return (
      <p role="status" className="text-ink-2">
        working out one place after the other …
      </p>
    )
  return (
    <ul className="mt-1 border-t border-hair">
      {data.map((way, k) => (
        <Row key={k} way={way} />
      ))}
    </ul>
  )
}

function Row({ way }: { way: Way }) {
  const { session } = useFrame()
  const now = way.edits.length === 0
  return (
    <li className="grid grid-cols-[minmax(0,15rem)_minmax(0,1fr)_auto] gap-x-4 border-b border-hair py-1">
      <span className={now ? 'font-semibold' : ''}>
        <Sentence {...way.label} />
      </span>
      <span className="text-ink-2">
        {way.says.map((each, k) => (
          <span key={k} className="block">
            <Sentence {...each} />
          </span>
        ))}
        {way.stops.map((each, k) => (
          <span key={k} className="block text-red">
            ■ <Sentence {...each} />
          </span>
        ))}
      </span>
      {!now && (
        <button
          className="link self-start"
          onClick={() => session.send(way.edits as unknown as Edit[])}
        >
          take it
        </button>
      )}
    </li>
  )
}
