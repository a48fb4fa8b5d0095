import type { Way } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { apart, Framed, Heads, TABLE, Take } from './wayParts'

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
