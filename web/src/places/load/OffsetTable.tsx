import { useUnits } from '../../app/units'
import { number, type System, unit } from '../../ui/format'
import type { Load } from './useLoad'

// Where the zero of each position is, as the setter enters it.
export function OffsetTable({
  load,
  numbers,
  each,
  href,
}: {
  load: Load
  numbers: boolean
  each: Set<string> // stations whose positions keep a zero each
  href: string
}) {
  const { system } = useUnits()
  const rows = load.stations.flatMap((station, s) =>
    station.spots.map((spot, k) => {
      const first = k > 0 && !each.has(station.id) ? station.spots[0] : undefined
      return { spot, k, s: s + 1, key: `${station.id}:${k}`, first: first?.at }
    }),
  )
  return (
    <div className="px-4 py-2">
      <table className="w-full">
        <thead className="text-left text-small text-ink-2">
          <tr>
            {numbers && <th className="font-normal">Station</th>}
            <th className="font-normal">Position</th>
            <th className="font-normal">Offset</th>
            {['X', 'Y', 'Z'].map((each) => (
              <th key={each} className="text-right font-normal">
                {each} {unit('length', system)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="n">
          {rows.map(({ spot, k, s, key, first }) => (
            <tr key={key} className="border-t border-hair">
              {numbers && <td>{s}</td>}
              <td>{k + 1}</td>
              <td className={first ? 'font-text text-ink-3' : 'text-brass'}>
                {first ? 'from the first' : spot.code || 'none left'}
              </td>
              {[0, 1, 2].map((axis) => (
                <td key={axis} className="text-right">
                  {first && spot.at
                    ? signed(spot.at[axis]! - first[axis]!, system)
                    : spot.at
                      ? number(spot.at[axis]!, 'length', system)
                      : '–'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-small text-ink-2">
        {load.measured
          ? `Machine positions of ${load.machine}, no tool length in Z.`
          : `Differences from the first position: where the table of ${load.machine} is has not been measured.`}{' '}
        Set and check each at the machine.
      </p>
      <p className="mt-1 flex gap-4 text-small">
        <a className="link" href={`${href}.csv`} download>
          Take as CSV
        </a>
        {load.block && load.measured ? (
          <a className="link" href={`${href}.nc?units=${system}`} download>
            as a block for its control
          </a>
        ) : (
          <span className="text-ink-3">
            {load.block
              ? 'a block needs a table that is measured in'
              : `no block: how the control of ${load.machine} takes offsets is not known`}
          </span>
        )}
      </p>
    </div>
  )
}

const signed = (value: number, system: System) =>
  `${value >= 0 ? '+' : ''}${number(value, 'length', system)}`
