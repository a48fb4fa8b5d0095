import { useUnits } from '../../app/units'
import { number, type System, unit } from '../../ui/format'
import type { Load } from './useLoad'

// Where the zero of each position is, as the setter enters it.
export function OffsetTable({
  load,
  numbers,
  href,
}: {
  load: Load
  numbers: boolean
  href: string
}) {
  const { system } = useUnits()
  const turned = load.offsets.some((each) => each.index !== '')
  // of a tombstone's rows the drawing tells
  const rows = load.offsets.filter((each) => !(load.tombstone && each.from_first))
  return (
    <div className="px-4 py-2">
      <table className="w-full">
        <thead className="text-left text-small text-ink-2">
          <tr>
            {numbers && <th className="font-normal">Station</th>}
            <th className="font-normal">{load.tombstone ? 'From position' : 'Position'}</th>
            {turned && (
              <>
                <th className="font-normal">To the tool</th>
                <th className="font-normal">At</th>
              </>
            )}
            <th className="font-normal">Offset</th>
            {['X', 'Y', 'Z'].map((each) => (
              <th key={each} className="text-right font-normal">
                {each} {unit('length', system)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="n">
          {rows.map((each) => (
            <tr
              key={`${each.station}:${each.position}:${each.side}`}
              className="border-t border-hair"
            >
              {numbers && <td>{each.station}</td>}
              <td>{each.position}</td>
              {turned && (
                <>
                  <td className="font-text">{each.side || 'as it stands'}</td>
                  <td>{each.index}</td>
                </>
              )}
              <td className={each.from_first ? 'font-text text-ink-3' : 'text-brass'}>
                {each.from_first ? 'from the first' : each.code || 'none left'}
              </td>
              {[0, 1, 2].map((axis) => (
                <td key={axis} className="text-right">
                  {!each.at
                    ? '–'
                    : each.from_first
                      ? signed(each.at[axis]!, system)
                      : number(each.at[axis]!, 'length', system)}
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
