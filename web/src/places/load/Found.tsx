import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import type { components } from '../../api/schema'
import { useUnits } from '../../app/units'
import { number, type System } from '../../ui/format'
import { useFrame } from '../frame'

type Found = components['schemas']['MeasuredOut']

// An offset table with what was found at the machine, held against the plan; a position can be put
// where it was found.
export function FoundOffsets({ setup }: { setup: string }) {
  const { answer, session } = useFrame()
  const { system } = useUnits()
  const [found, setFound] = useState<Found[] | null>(null)
  const [problem, setProblem] = useState('')
  async function read(file: File | undefined) {
    if (!file) return
    setProblem('')
    try {
      const text = await file.text()
      setFound(
        await ask(
          api.POST('/api/plans/{id}/setups/{setup}/measured', {
            params: { path: { id: answer.id, setup } },
            body: { text },
          }),
        ),
      )
    } catch (error) {
      setFound(null)
      setProblem((error as Error).message)
    }
  }
  const take = (edits: Found['edits']) => {
    session.send(edits as Edit[])
    setFound(null)
  }
  const all = found?.find((each) => each.position === 0)
  return (
    <div className="px-4 pb-2 text-small">
      <label className="link cursor-pointer focus-within:outline-2">
        Compare with what was found
        <input
          type="file"
          accept=".csv,text/csv"
          className="sr-only"
          onChange={(event) => {
            void read(event.target.files?.[0])
            event.target.value = ''
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-1 text-red">
          {problem}
        </p>
      )}
      {found && (
        <table className="mt-1 w-full" aria-label="Found at the machine">
          <thead className="text-left text-ink-2">
            <tr>
              <th className="font-normal">Position</th>
              <th className="font-normal">Offset</th>
              {['X', 'Y', 'Z'].map((each) => (
                <th key={each} className="text-right font-normal">
                  {each} off
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody className="n">
            {found
              .filter((each) => each.position > 0)
              .map((each) => (
                <tr key={`${each.station}${each.position}`} className="border-t border-hair">
                  <td>{each.position}</td>
                  <td className="text-brass">{each.code}</td>
                  {each.off.map((by, k) => (
                    <td key={k} className="text-right">
                      {by === null ? '–' : signed(by, system)}
                    </td>
                  ))}
                  <td className="text-right font-text">
                    <button className="link" onClick={() => take(each.edits)}>
                      put it there
                    </button>
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      )}
      {found && (
        <p className="mt-1 flex gap-4">
          {all && (
            <button className="link" onClick={() => take(all.edits)}>
              Put all where they were found
            </button>
          )}
          <button className="link" onClick={() => setFound(null)}>
            leave the plan as it is
          </button>
          <span className="text-ink-3">
            X and Y move; what Z is off is the seat’s or the tool’s.
          </span>
        </p>
      )}
    </div>
  )
}

const signed = (value: number, system: System) =>
  `${value >= 0 ? '+' : ''}${number(value, 'size', system)}`
