import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { api, ask, type Edit, type Way } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { Mark } from '../../ui/Mark'
import { useFrame } from '../frame'
import { Finishes } from './FinishLines'
import { Holes, LIMITS, Schools } from './WayLines'
import { apart, Share } from './wayParts'

type Props = { operation: string; shown: string }

// The schools of roughing side by side, each at its best inside every limit; one click takes one.
export function Ways({ operation, shown }: Props) {
  const { answer, session } = useFrame()
  const box = useRef<HTMLDivElement>(null)
  const { data, error } = useQuery({
    queryKey: ['ways', answer.id, answer.revision, operation],
    meta: { shown: true },
    staleTime: Infinity,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/operations/{operation}/choices', {
          params: { path: { id: answer.id, operation } },
        }),
      ),
  })
  const there = !!data
  useEffect(() => {
    if (there) box.current?.scrollIntoView({ block: 'nearest' })
  }, [there])
  if (error)
    return (
      <p role="alert" className="py-2 text-red-edge">
        {error.message}
      </p>
    )
  if (!data)
    return (
      <p role="status" className="py-2 text-ink-2">
        Looking for the best cut of each kind …
      </p>
    )
  if (data.length === 0)
    return (
      <p className="py-2 text-ink-2">
        There is nothing to compare here yet: it needs a tool, a material and something to cut.
      </p>
    )
  if (shown === 'schools')
    return (
      <div ref={box}>
        <Schools ways={data} />
      </div>
    )
  if (shown === 'sizes')
    return (
      <div ref={box}>
        <Finishes ways={data} />
      </div>
    )
  if (shown === 'holes')
    return (
      <div ref={box}>
        <Holes ways={data} />
      </div>
    )
  const widest = Math.max(...data.map((way) => way.diameter_mm ?? 0), 1)
  const deepest = Math.max(...data.map((way) => way.depth_mm ?? 0), 1)
  const fastest = Math.min(
    ...data.filter((way) => way.time_s && way.stops === 0).map((way) => way.time_s ?? Infinity),
  )
  const rows: [string, (way: Way) => React.ReactNode][] = [
    [
      'Depth × width',
      (way) => (
        <>
          <Figure value={way.depth_mm} quantity="size" trim bare /> ×{' '}
          <Figure value={way.width_mm} quantity="size" trim bare />
        </>
      ),
    ],
    ['Speed', (way) => <Figure value={way.rpm} quantity="spindle_speed" />],
    ['Feed', (way) => <Figure value={way.feed_mm_min} quantity="feed" />],
    ['Removal', (way) => <Figure value={way.removal_cm3_min} quantity="removal" />],
    ['Power', (way) => <Share value={way.power_kw} limit={way.power_limit_kw} quantity="power" />],
    [
      'Torque',
      (way) => <Share value={way.torque_nm} limit={way.torque_limit_nm} quantity="torque" />,
    ],
    ['Push-off', (way) => <Figure value={way.push_off_mm} quantity="size" />],
    ['Holding', (way) => <Figure value={way.holding} quantity="factor" />],
    ['Edge lasts', (way) => <Figure value={way.life_min} quantity="minutes" />],
    [
      'Held back by',
      (way) => (
        <span className="text-small">
          {way.limits.map((each) => LIMITS[each] ?? each).join(', then ') || '–'}
        </span>
      ),
    ],
  ]
  return (
    <div
      ref={box}
      className="my-1 overflow-x-auto border-y border-hair-strong bg-surface"
      role="group"
      aria-label="Other ways to cut it"
    >
      <table className="w-full text-body [&_td]:px-2 [&_td]:py-0.5 [&_th]:px-2 [&_th]:py-0.5">
        <thead>
          <tr className="align-top">
            <th>
              <span className="sr-only">Take it out</span>
            </th>
            {data.map((way, place) => (
              <th
                key={way.name}
                scope="col"
                className={`w-[23%] border-l border-hair pt-1.5 ${place === 0 ? 'text-ink-2' : 'font-semibold'}`}
              >
                {way.name}
                <span className="block text-small font-normal text-ink-2">{way.tool}</span>
                {way.depth_mm && way.width_mm && (
                  <Section
                    depth={way.depth_mm}
                    width={way.width_mm}
                    diameter={way.diameter_mm ?? widest}
                    widest={widest}
                    deepest={deepest}
                  />
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, show]) => (
            <tr key={name} className="border-t border-hair">
              <th scope="row" className="text-small text-ink-2">
                {name}
              </th>
              {data.map((way) => (
                <td key={way.name} className="border-l border-hair">
                  {way.because ? '' : show(way)}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-t border-ink-3">
            <th scope="row" className="font-semibold">
              Time
            </th>
            {data.map((way) => (
              <td key={way.name} className="border-l border-hair">
                {way.because ? (
                  <span className="text-small text-ink-2">{way.because}</span>
                ) : (
                  <span className={way.time_s === fastest ? 'font-semibold' : ''}>
                    <span className="n text-lead">{clock(way.time_s ?? 0)}</span>
                    {apart(way) && (
                      <span className="n ml-1.5 text-small text-ink-2">{apart(way)} a part</span>
                    )}
                  </span>
                )}
                {way.stops > 0 && (
                  <span className="ml-2 inline-flex items-center gap-1 text-small text-red-edge">
                    <Mark state="stop" size={10} /> will not work
                  </span>
                )}
              </td>
            ))}
          </tr>
          <tr>
            <td />
            {data.map((way) => (
              <td key={way.name} className="border-l border-hair pb-2!">
                {way.edits.length > 0 && (
                  <button className="press" onClick={() => session.send(way.edits as Edit[])}>
                    Take it
                  </button>
                )}
                {way.brings > 0 && (
                  <span className="ml-2 text-small text-red-edge">
                    brings {way.brings} new stop{way.brings > 1 ? 's' : ''}
                  </span>
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  )
}

// The section of one pass, all ways to one scale: the cutter from the side, what it takes filled.
function Section({
  depth,
  width,
  diameter,
  widest,
  deepest,
}: {
  depth: number
  width: number
  diameter: number
  widest: number
  deepest: number
}) {
  const scale = Math.min(66 / widest, 40 / deepest)
  const [d, w, t] = [depth * scale, width * scale, diameter * scale]
  const wall = t / 2
  return (
    <svg
      width="112"
      height="52"
      viewBox="-56 -48 112 52"
      className="my-1 block"
      role="img"
      aria-label="section of one pass"
    >
      <path d={`M-55 0H${wall - w}V${-d}H55V3H-55Z`} className="fill-[#e4e8f0]" />
      <path d={`M${wall} 0V${-d}H55V3H${wall}Z`} className="fill-[#e4e8f0]" />
      <rect
        x={-t / 2}
        y={-47}
        width={t}
        height={47}
        className="fill-[#ced7f2] stroke-ink"
        strokeWidth="0.7"
      />
      <rect
        x={wall - w}
        y={-d}
        width={w}
        height={d}
        className="fill-[#e0a36b] stroke-ink"
        strokeWidth="0.9"
      />
      <path d={`M-55 0H${wall}V${-d}H55`} className="fill-none stroke-ink" strokeWidth="0.9" />
    </svg>
  )
}
