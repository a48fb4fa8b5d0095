import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import { clock } from '../../ui/format'
import { Sentence } from '../../ui/Figure'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { best, curves, type Many } from './manyOf'

const WIDE = 440
const HIGH = 90

// What a part takes with more of them in the machine at a time; asked for, since each is a plan of its own.
export function HowMany({ setup }: { setup: string }) {
  const [open, setOpen] = useState(false)
  return (
    <div className="border-t border-hair px-4 py-1.5">
      <button className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
        How many at a time?
      </button>
      {open && <Asked setup={setup} />}
    </div>
  )
}

function Asked({ setup }: { setup: string }) {
  const { answer } = useFrame()
  const { data, error, refetch } = useQuery({
    queryKey: ['how-many', answer.id, answer.revision, setup],
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/setups/{setup}/how-many', {
          params: { path: { id: answer.id, setup } },
        }),
      ),
  })
  if (error) return <AskAgain again={() => void refetch()} />
  if (!data)
    return (
      <p role="status" className="text-ink-2">
        working out one number after the other …
      </p>
    )
  return <Curve found={data} />
}

function Curve({ found }: { found: Many[] }) {
  const { session } = useFrame()
  const [chosen, setChosen] = useState<number | null>(null)
  const least = best(found)
  const shown = found.find((each) => each.parts === chosen) ?? least ?? found[0]
  if (!shown) return null
  const spots = curves(found, WIDE, HIGH)
  const line = (of: 'part' | 'batch') => spots.map((each) => `${each.x},${each[of] + 8}`).join(' ')
  return (
    <div className="pt-1 text-small">
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH + 16}`}
        className="w-full"
        role="img"
        aria-label="what a part takes over how many stand in the machine"
      >
        <polyline points={line('batch')} className="fill-none stroke-ink-3" strokeDasharray="3 2" />
        <polyline points={line('part')} className="fill-none stroke-ink" strokeWidth={1.25} />
        <text x={spots[0]!.x + 8} y={spots[0]!.batch + 6} className="fill-ink-3 text-[11px]">
          with building and proving
        </text>
        <text x={spots[0]!.x + 8} y={spots[0]!.part + 6} className="fill-ink-2 text-[11px]">
          cycle and loading
        </text>
        {spots.map((each, k) => (
          <g key={k} className={found[k]!.stops.length ? 'fill-red' : 'fill-ink'}>
            <circle cx={each.x} cy={each.batch + 8} r={2} className="fill-paper stroke-ink-3" />
            <circle cx={each.x} cy={each.part + 8} r={found[k] === shown ? 4 : 2.5} />
          </g>
        ))}
      </svg>
      <div
        className="grid"
        style={{ gridTemplateColumns: `repeat(${found.length}, minmax(0, 1fr))` }}
      >
        {found.map((each) => (
          <button
            key={each.parts}
            aria-pressed={each === shown}
            aria-label={`${each.parts} at a time`}
            className={`n justify-self-center px-1.5 ${each === shown ? 'border-b-2 border-ink font-semibold' : ''} ${each.stops.length ? 'text-red' : ''}`}
            onClick={() => setChosen(each.parts)}
          >
            {each.parts}
          </button>
        ))}
      </div>
      <p className="mt-1.5 text-body">
        <b>{shown.parts} at a time</b>
        {shown === least && <span className="text-ink-2">, the least of those that go</span>}: a
        part <b className="n">{clock(shown.one_part_s)}</b> of cycle and loading,{' '}
        <span className="n">{clock(shown.batch_part_s)}</span> with building and proving
        {shown.cost > 0 && (
          <>
            , which the machines cost <span className="n">{shown.cost.toFixed(2)}</span>
          </>
        )}
        ; <span className="n">{shown.cycles}</span> cycles of{' '}
        <span className="n">{clock(shown.cycle_s)}</span>
        {shown.last < shown.parts && (
          <>
            , the last with <span className="n">{shown.last}</span>
          </>
        )}
        .
        {shown.one_less_s > 0 && (
          <span className="text-ink-2">
            {' '}
            With a blank missing it takes as long, unless that position is left out:{' '}
            <span className="n">{clock(shown.one_less_s)}</span> less.
          </span>
        )}
      </p>
      {shown.stops.map((each, k) => (
        <p key={k} className="text-red">
          ■ <Sentence {...each} />
        </p>
      ))}
      <button className="link text-body" onClick={() => session.send(shown.edits as Edit[])}>
        Load {shown.parts} at a time
      </button>
    </div>
  )
}
