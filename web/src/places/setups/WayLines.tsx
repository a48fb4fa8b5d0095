import type { Way } from '../../api/client'
import { Figure, Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { TABLE, apart, Framed, Heads, Take, Share } from './wayParts'

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
