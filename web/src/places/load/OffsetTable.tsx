import { useState } from 'react'
import { useUnits } from '../../app/units'
import { Choice } from '../../ui/Choice'
import { number, type System, unit } from '../../ui/format'
import { keyOf, readFrom } from './offsetsFrom'
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
  const own = load.offsets.filter((each) => !(load.tombstone && each.from_first))
  const [from, setFrom] = useState('')
  const origins = own.filter((each) => each.at && !each.from_first)
  const origin = origins.find((each) => keyOf(each) === from)
  const rows = readFrom(own, from)
  return (
    <div className="px-4 py-2">
      {origins.length > 1 && (
        <p className="pb-1">
          <Choice
            label="Read from"
            value={origin ? from : ''}
            options={[
              { value: '', label: load.measured ? 'the machine’s zero' : 'the first position' },
              ...origins.map((each) => ({ value: keyOf(each), label: calledOf(each, numbers) })),
            ]}
            onChange={setFrom}
          />
        </p>
      )}
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
            <tr key={keyOf(each)} className="border-t border-hair">
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
                    : each.from_first || origin
                      ? signed(each.at[axis]!, system)
                      : number(each.at[axis]!, 'length', system)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-small text-ink-2">
        {origin
          ? `Differences from ${calledOf(origin, numbers)}; what is taken away is the machine’s.`
          : load.measured
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

const calledOf = (each: Load['offsets'][number], numbers: boolean) =>
  [numbers && `station ${each.station}`, `position ${each.position}`, each.side]
    .filter(Boolean)
    .join(', ')

const signed = (value: number, system: System) =>
  `${value >= 0 ? '+' : ''}${number(value, 'length', system)}`
