import { useState } from 'react'
import { TextField } from '../../ui/TextField'
import { called, type Fit, onScale, plainly, unitOf, type Value } from './timing'

const WIDE = 116
const HIGH = 16
const SURE = 0.15 // spread of a value that is taken unasked

// The values that fit the runs beside those of the record, how sure they are, and which are taken over.
export function FittedValues({
  fit,
  runs,
  may,
  busy,
  problem,
  onTake,
}: {
  fit: Fit
  runs: number
  may: boolean
  busy: boolean
  problem: string
  onTake: (names: string[], source: string) => void
}) {
  const [chosen, setChosen] = useState<Record<string, boolean>>({})
  const [source, setSource] = useState('')
  const takes = (value: Value) => chosen[value.name] ?? (value.told && value.spread <= SURE)
  const names = fit.values.filter(takes).map((each) => each.name)
  const said = source || `timed by watch, ${runs} runs`
  return (
    <section aria-label="Values that fit">
      <h2 className="mb-2 font-semibold">What fits {runs} runs</h2>
      <table className="w-full border-t border-ink">
        <thead className="text-small text-ink-2">
          <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1.5 [&>th]:pr-2">
            <th>Value</th>
            <th className="text-right">was</th>
            <th className="text-right">fits</th>
            <th aria-hidden className="text-center font-normal">
              ⅓ · was · 3 ×
            </th>
            <th className="text-right">±</th>
            <th>Take</th>
          </tr>
        </thead>
        <tbody>
          {fit.values.map((value) => (
            <tr
              key={value.name}
              className={`[&>td]:border-b [&>td]:border-hair [&>td]:py-1 [&>td]:pr-2 ${value.told ? '' : 'text-ink-3'}`}
            >
              <td>
                {called(value.name)}
                <span className="block text-small text-ink-3">{unitOf(value.name)}</span>
              </td>
              <td className="n text-right">{plainly(value.before)}</td>
              <td className="n text-right font-semibold">
                {value.told ? plainly(value.fitted) : '–'}
              </td>
              <td>
                <Spread value={value} />
              </td>
              <td className="n whitespace-nowrap text-right">
                {value.told ? percent(value.spread) : ''}
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`Take ${called(value.name)}`}
                  checked={takes(value)}
                  disabled={!may || !value.told}
                  onChange={(event) =>
                    setChosen((now) => ({ ...now, [value.name]: event.target.checked }))
                  }
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Unsure fit={fit} />
      {may && (
        <div className="mt-3 grid justify-items-start gap-2">
          <TextField label="Source" value={said} max={200} wide="w-72" onCommit={setSource} />
          <button
            className="press"
            disabled={busy || names.length === 0}
            onClick={() => onTake(names, said)}
          >
            Take {names.length} {names.length === 1 ? 'value' : 'values'} into its record
          </button>
          {problem && (
            <p role="alert" className="border-l-2 border-red pl-2 text-red-edge">
              {problem}
            </p>
          )}
        </div>
      )}
    </section>
  )
}

function Unsure({ fit }: { fit: Fit }) {
  const untold = fit.values.filter((each) => !each.told)
  return (
    <div className="mt-2 grid gap-1 text-small text-ink-2">
      {untold.length > 0 && (
        <p>These runs say nothing of {untold.map((each) => lower(each.name)).join(', ')}.</p>
      )}
      {fit.alike.map(([a, b]) => (
        <p key={a + b}>
          They can’t tell {lower(a)} and {lower(b)} apart: one more of either, with less of the
          other, fits as well.
        </p>
      ))}
      <p>± is one standard deviation, of a watch that is off by three tenths of a second.</p>
    </div>
  )
}

// The record's value in the middle, what fits as a dot, twice its spread as a line.
function Spread({ value }: { value: Value }) {
  const ratio = value.fitted / value.before
  const x = (at: number) => 2 + onScale(at) * (WIDE - 4)
  const [low, high] = [-2, 2].map((k) => x(ratio * Math.exp(k * value.spread)))
  return (
    <svg width={WIDE} height={HIGH} aria-hidden className="mx-auto block">
      <line x1={2} x2={WIDE - 2} y1={HIGH / 2} y2={HIGH / 2} className="stroke-hair" />
      <line x1={x(1)} x2={x(1)} y1={2} y2={HIGH - 2} className="stroke-ink-3" />
      {value.told && (
        <>
          <line
            x1={low}
            x2={high}
            y1={HIGH / 2}
            y2={HIGH / 2}
            className="stroke-mark"
            strokeWidth={2}
          />
          <circle cx={x(ratio)} cy={HIGH / 2} r={3.5} className="fill-mark" />
        </>
      )}
    </svg>
  )
}

const lower = (name: string) => called(name).charAt(0).toLowerCase() + called(name).slice(1)
const percent = (share: number) => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`
