import type { Edit, Way } from '../../api/client'
import { Figure, Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'

export const LIMITS: Record<string, string> = {
  power: 'the spindle’s power',
  torque: 'the spindle’s torque',
  chip: 'the chip the edge takes',
  feed: 'the machine’s feed',
  holding: 'what the holding stands',
  'push-off': 'push-off',
}
const HOLE_LIMITS: Record<string, string> = {
  ...LIMITS,
  feed: 'the feed of the data',
  machine: 'the machine’s feed',
}

const TABLE = 'w-full text-body [&_td]:px-2 [&_td]:py-0.5 [&_th]:px-2 [&_th]:py-0.5'
// By how much a part takes longer or shorter than as planned; nothing under half a second.
export function apart(way: Way) {
  const seconds = way.one_part_s ?? 0
  return Math.abs(seconds) < 0.5
    ? ''
    : `${clock(Math.abs(seconds))} ${seconds < 0 ? 'less' : 'more'}`
}

const Framed = ({ children }: { children: React.ReactNode }) => (
  <div
    className="my-1 overflow-x-auto border-y border-hair-strong bg-surface"
    role="group"
    aria-label="Other ways to cut it"
  >
    {children}
  </div>
)

const Heads = ({ of }: { of: string[] }) => (
  <tr className="text-small text-ink-2">
    <th>
      <span className="sr-only">Take it out</span>
    </th>
    {of.map((name) => (
      <th key={name} scope="col" className="whitespace-nowrap">
        {name}
      </th>
    ))}
    <th>
      <span className="sr-only">Take it out</span>
    </th>
  </tr>
)

// The last cell of a way's line: what it would stop, and taking it.
function Take({ way }: { way: Way }) {
  const { session } = useFrame()
  return (
    <td className="whitespace-nowrap text-right">
      {way.edits.length > 0 && (
        <button
          className="press"
          aria-label={`Take: ${way.name}`}
          onClick={() => session.send(way.edits as Edit[])}
        >
          Take it
        </button>
      )}
      {way.brings > 0 && (
        <span className="block text-small text-red-edge">
          brings {way.brings} new stop{way.brings > 1 ? 's' : ''}
        </span>
      )}
    </td>
  )
}

// The schools of a turned or tilted operation, a line each: what the spindle and the chuck say of it, what it looks like, what it takes.
export function Schools({ ways }: { ways: Way[] }) {
  return (
    <Framed>
      <table className={TABLE}>
        <thead>
          <Heads of={['Power', 'Held', 'Rough Rt', 'Time', 'A part']} />
        </thead>
        <tbody>
          {ways.map((way, place) => (
            <tr key={way.name} className="border-t border-hair">
              <th scope="row" className={place === 0 ? 'text-ink-2' : 'font-semibold'}>
                {way.name}
                <span className="block text-small font-normal text-ink-2">
                  {way.because ? (
                    way.because
                  ) : (
                    <>
                      {way.depth_mm && (
                        <>
                          <Figure value={way.depth_mm} quantity="size" trim bare /> deep,{' '}
                        </>
                      )}
                      {way.feed_per_rev_mm ? (
                        <>
                          <Figure value={way.cutting_speed_m_min} quantity="cutting_speed" />,{' '}
                          <Figure value={way.feed_per_rev_mm} quantity="feed_per_tooth" /> a turn
                        </>
                      ) : (
                        <>
                          {way.tool}, <Figure value={way.rpm} quantity="spindle_speed" />,{' '}
                          <Figure value={way.feed_mm_min} quantity="feed" />
                        </>
                      )}
                    </>
                  )}
                </span>
              </th>
              <td>
                <Share value={way.power_kw} limit={way.power_limit_kw} quantity="power" />
              </td>
              <td>
                <Figure value={way.holding} quantity="factor" />
              </td>
              <td>
                <Figure value={way.roughness_um} quantity="roughness" />
              </td>
              <td className="n">{clock(way.time_s ?? 0)}</td>
              <td className="n whitespace-nowrap text-small text-ink-2">
                {place > 0 && apart(way)}
              </td>
              <Take way={way} />
            </tr>
          ))}
        </tbody>
      </table>
    </Framed>
  )
}

// The ways to a hole on this machine, the quickest first; what can't be done here says why.
export function Holes({ ways }: { ways: Way[] }) {
  const can = ways.filter((way) => !way.because)
  const cannot = ways.filter((way) => way.because)
  return (
    <Framed>
      <table className={TABLE}>
        <thead>
          <Heads of={['Tools', 'Held back by', 'New pockets', 'A part']} />
        </thead>
        <tbody>
          {can.map((way) => (
            <tr key={way.name} className="border-t border-hair">
              <th scope="row" className={way.edits.length === 0 ? 'text-ink-2' : 'font-semibold'}>
                {way.name}
              </th>
              <td>
                {way.tool}
                <span className="block text-small text-ink-2">
                  <Figure value={way.rpm} quantity="spindle_speed" />,{' '}
                  <Figure value={way.feed_mm_min} quantity="feed" />
                </span>
              </td>
              <td className="text-small">
                {way.limits.map((each) => HOLE_LIMITS[each] ?? each).join(', then ')}
              </td>
              <td className="n">{way.pockets ?? ''}</td>
              <td className="n whitespace-nowrap">
                {way.edits.length === 0 ? (
                  <>
                    {clock(way.time_s ?? 0)} <span className="text-small text-ink-2">here</span>
                  </>
                ) : (
                  apart(way) || 'as now'
                )}
              </td>
              <Take way={way} />
            </tr>
          ))}
        </tbody>
      </table>
      {cannot.length > 0 && (
        <p className="px-2 py-1 text-small text-ink-2">
          Not here:{' '}
          {cannot.map((way, k) => (
            <span key={way.name}>
              {k > 0 && '; '}
              {way.name} (<Sentence text={way.because} values={way.values} />)
            </span>
          ))}
          .
        </p>
      )}
    </Framed>
  )
}

// The ways to a last size, a line each: what it would measure and look like against what it takes.
export function Finishes({ ways }: { ways: Way[] }) {
  // the best is only marked where it is better than what is now
  const best = (of: (way: Way) => number | null | undefined) => {
    const least = Math.min(...ways.map((way) => of(way) ?? Infinity))
    return least < (of(ways[0]!) ?? Infinity) * 0.99 ? least : NaN
  }
  const [truest, smoothest] = [best((way) => way.push_off_mm), best((way) => way.roughness_um)]
  return (
    <Framed>
      <table className={TABLE}>
        <thead>
          <Heads of={['Off size', 'Feed marks', 'Edge lasts', 'Time', 'A part']} />
        </thead>
        <tbody>
          {ways.map((way, place) => (
            <tr key={way.name} className="border-t border-hair">
              <th scope="row" className={place === 0 ? 'text-ink-2' : 'font-semibold'}>
                {way.name}
                {place > 0 && (
                  <span className="block whitespace-nowrap text-small font-normal text-ink-2">
                    <Figure value={way.width_mm} quantity="size" trim bare /> wide,{' '}
                    <Figure value={way.rpm} quantity="spindle_speed" />,{' '}
                    <Figure value={way.feed_mm_min} quantity="feed" />
                  </span>
                )}
              </th>
              <td className={way.push_off_mm === truest ? 'font-semibold' : ''}>
                <Figure value={way.push_off_mm} quantity="size" bare />
              </td>
              <td className={way.roughness_um === smoothest ? 'font-semibold' : ''}>
                <Figure value={way.roughness_um} quantity="roughness" />
              </td>
              <td>
                <Figure value={way.life_min} quantity="minutes" />
              </td>
              <td className="n">{clock(way.time_s ?? 0)}</td>
              <td className="n whitespace-nowrap text-small text-ink-2">
                {place > 0 && apart(way)}
              </td>
              <Take way={way} />
            </tr>
          ))}
        </tbody>
      </table>
      <p className="px-2 pb-1 text-small text-ink-3">
        Off size is what tool, holder and machine give under the force on the wall; feed marks are
        waves along the feed with one edge standing proud. Both are predictions: measure the first
        part.
      </p>
    </Framed>
  )
}

export function Share({
  value,
  limit,
  quantity,
}: {
  value: number | null | undefined
  limit: number | null | undefined
  quantity: string
}) {
  if (value === null || value === undefined || !limit)
    return <Figure value={value} quantity={quantity} />
  const share = value / limit
  return (
    <span className="flex items-center gap-2">
      <Figure value={value} quantity={quantity} />
      <svg width="44" height="8" aria-hidden className={share > 1 ? 'text-red' : 'text-ink-3'}>
        <rect x="0.5" y="1.5" width="43" height="5" className="fill-paper stroke-hair-strong" />
        <rect x="1" y="2" width={42 * Math.min(share, 1)} height="4" fill="currentColor" />
      </svg>
      <span
        className={`n whitespace-nowrap text-small ${share > 1 ? 'font-semibold text-red-edge' : 'text-ink-2'}`}
      >
        {Math.round(share * 100)} %
      </span>
    </span>
  )
}
