import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import type { components } from '../../api/schema'
import { Figure } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import { useFrame } from '../frame'

type Ways = components['schemas']['BeginningsOut']
type Way = Ways['ways'][number]
const MOST_STOPS = 2

// Which side first: each that something of the part opens to, tried with its first cuts, the best first.
export function Beginnings() {
  const { answer, session } = useFrame()
  const [problem, setProblem] = useState('')
  const { data, error, isPending } = useQuery({
    queryKey: ['beginnings', answer.id, answer.revision],
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/beginnings', { params: { path: { id: answer.id } } }),
      ) as Promise<Ways | null>,
  })
  if (isPending)
    return (
      <p role="status" className="mt-3 text-small text-ink-3">
        trying which side could be first …
      </p>
    )
  if (error)
    return (
      <p role="alert" className="mt-3 text-small text-red-edge">
        {error.message}
      </p>
    )
  if (!data || data.ways.length === 0) return null
  const begin = async (way: Way) => {
    try {
      await session.edit(way.edits as Edit[])
      setProblem('')
    } catch (failed) {
      setProblem((failed as Error).message)
    }
  }
  return (
    <section className="mt-4 text-left" aria-label="Which side first">
      <h3 className="text-body font-semibold text-ink">Which side first?</h3>
      {problem && (
        <p role="alert" className="text-red-edge">
          {problem}
        </p>
      )}
      <ol>
        {data.ways.map((way, k) => (
          <li
            key={way.up}
            className="grid grid-cols-[132px_1fr] items-center gap-4 border-t border-hair py-2"
          >
            <Picture way={way} />
            <div className="grid gap-0.5 text-body text-ink">
              <p className="flex items-baseline justify-between gap-3">
                <b>{capital(way.side)} up</b>
                <button
                  className={k === 0 ? 'press' : 'press-2'}
                  onClick={() => void begin(way)}
                  aria-label={`Begin with the ${way.side} up`}
                >
                  Begin like this
                </button>
              </p>
              <Told way={way} of={data} />
            </div>
          </li>
        ))}
      </ol>
      <p className="border-t border-hair pt-2 text-small text-ink-2">
        Tried with what would be cut first there, as the shop’s data start. Only sides that come
        straight to the tool count.
      </p>
    </section>
  )
}

function Told({ way, of }: { way: Way; of: Ways }) {
  const loose = way.factor !== null && way.factor < way.asked
  return (
    <>
      <p>
        {way.held ? `In the ${way.held}` : 'Nothing of the library holds it like this'}
        {way.factor !== null && (
          <>
            , stood <Figure value={way.factor} quantity="factor" />
            {loose && (
              <>
                , <Figure value={way.asked} quantity="factor" /> is asked for
              </>
            )}
          </>
        )}
      </p>
      <p>
        Reaches <span className="n">{way.reached}</span> of <span className="n">{of.features}</span>{' '}
        features
        {of.asked_for > 0 && (
          <>
            , <span className="n">{way.asked_for}</span> of{' '}
            <span className="n">{of.asked_for}</span> the drawing asks for
          </>
        )}
      </p>
      <p>
        Cuts its sides <Figure value={way.sides_mm} quantity="length" /> of{' '}
        <Figure value={way.high_mm} quantity="length" /> down
        {way.grips ? ', for the next to grip' : ': too little for the next to grip'}
      </p>
      <p className="text-ink-2">
        {way.cuts.length > 0 && `First ${way.cuts.join('; ')}. `}
        {way.further.length > 0
          ? `Further setups: ${way.further.join(', ')} up.`
          : 'No other side has to come up.'}
      </p>
      {way.stops.slice(0, MOST_STOPS).map((stop) => (
        <p key={stop} className="flex items-start gap-1.5">
          <span className="pt-0.5">
            <Mark state="stop" size={11} />
          </span>
          {stop}
        </p>
      ))}
      {way.stops.length > MOST_STOPS && (
        <p className="text-ink-2">
          and <span className="n">{way.stops.length - MOST_STOPS}</span> more that will not work
        </p>
      )}
    </>
  )
}

// The part as it would lie, seen from over its left front corner.
function Picture({ way }: { way: Way }) {
  const xs = way.lines.flatMap(([a, , b]) => [a, b])
  const ys = way.lines.flatMap(([, a, , b]) => [a, b])
  const [left, low] = [Math.min(...xs), Math.min(...ys)]
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - low]
  const line = Math.max(wide / 132, high / 96) * 1.1
  const path = way.lines.map(([a, b, c, d]) => `M${a} ${-b}L${c} ${-d}`).join('')
  return (
    <svg
      viewBox={`${left - line} ${-low - high - line} ${wide + 2 * line} ${high + 2 * line}`}
      className="h-24 w-[132px]"
      role="img"
      aria-label={`the part with its ${way.side} up`}
    >
      <path d={path} className="fill-none stroke-ink" strokeWidth={line} strokeLinecap="round" />
    </svg>
  )
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)
