import { Link, useSearchParams } from 'react-router'
import { type CalculatorWords, type ParameterWords, Refused } from '../../api/client'
import { type Inputs, useDrawing, useResults } from '../../api/hooks'
import { useUnits } from '../../app/units'
import { precise, unit } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { labelOf } from './labels'
import { Sections } from './Sections'
import { UseIt } from './UseIt'
import { Formulas, Share } from './Formulas'

// One calculator: inputs at the left, the drawing that follows them, results in both units, formulas with their source.
export function CalculatorPage({ known }: { known: CalculatorWords }) {
  const [params, setParams] = useSearchParams()
  const { system } = useUnits()
  const given = [...params.keys()].some((key) => known.parameters.some((p) => p.name === key))
  const inputs: Inputs = given
    ? Object.fromEntries(
        [...params].filter(([key]) => known.parameters.some((p) => p.name === key)),
      )
    : Object.fromEntries(Object.entries(known.example).map(([key, value]) => [key, String(value)]))
  const results = useResults(known.name, inputs)
  const drawing = useDrawing(known.name, inputs, system)
  const problem = results.error instanceof Refused ? results.error.problem : null
  const bad = new Set(problem?.problems.flatMap((row) => row.field.split(' or ')) ?? [])
  const change = (name: string, value: string) => {
    const next = new URLSearchParams({ ...inputs, [name]: value })
    const rival = known.either.find((group) => group.includes(name) && value !== '')
    for (const other of rival ?? []) if (other !== name) next.delete(other)
    if (value === '') next.delete(name)
    const about = params.get('for')
    if (about) next.set('for', about)
    setParams(next, { replace: true })
  }
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-4">
      <p className="text-small text-ink-2 print:hidden">
        <Link className="link" to="/bench">
          Bench
        </Link>{' '}
        / {known.group}
      </p>
      <div className="flex items-baseline gap-4 border-b border-ink pb-1.5">
        <h1 className="text-big font-semibold">{known.title}</h1>
        <span className="n text-small text-ink-3">{known.name}</span>
        <span className="ml-auto flex gap-4 text-small print:hidden">
          <Share />
          <button className="link" onClick={() => window.print()}>
            Print
          </button>
        </span>
      </div>
      <p className="max-w-[80ch] py-2 text-ink-2">{known.text}</p>
      <div className="grid grid-cols-[316px_minmax(0,1fr)_300px] gap-7 max-[1000px]:grid-cols-1">
        <div>
          <h2 className="mb-1 text-lead font-semibold">Given</h2>
          <dl>
            {known.parameters.map((each) => (
              <Input
                key={each.name}
                each={each}
                value={inputs[each.name] ?? ''}
                bad={bad.has(each.name)}
                rival={known.either.find((group) => group.includes(each.name))}
                onChange={(value) => change(each.name, value)}
              />
            ))}
          </dl>
        </div>
        <div
          className="self-start border border-hair bg-paper [&_svg]:h-auto [&_svg]:w-full"
          role="presentation"
          dangerouslySetInnerHTML={{ __html: drawing.data?.svg ?? '' }}
        />
        <div>
          <h2 className="mb-1 text-lead font-semibold">Worked out</h2>
          {problem ? (
            <p role="alert" className="border-l-4 border-red bg-red-wash px-3 py-2 text-red-edge">
              {problem.sentence}
            </p>
          ) : results.error ? (
            <p role="alert" className="mt-3 text-red-edge">
              {results.error.message}
            </p>
          ) : (
            <Results known={known} found={results.data ?? {}} />
          )}
        </div>
      </div>
      {params.get('for') && results.data && !problem && (
        <UseIt
          known={known}
          about={params.get('for') ?? ''}
          values={{ ...inputs, ...results.data }}
        />
      )}
      <Formulas ids={known.formulas} />
      <p className="mt-4 border-t border-hair pt-2 text-small text-ink-3">
        A planning aid. The machine maker’s manual, the tool maker’s limits, the shop’s rules and
        the qualified person at the machine come first.
      </p>
    </div>
  )
}

function Input({
  each,
  value,
  bad,
  rival,
  onChange,
}: {
  each: ParameterWords
  value: string
  bad: boolean
  rival?: string[]
  onChange: (value: string) => void
}) {
  const label = labelOf(each.name)
  const needless = each.required
    ? undefined
    : each.default === null
      ? rival
        ? 'or'
        : '–'
      : String(each.default)
  return (
    <div className="flex min-h-9 items-center gap-3 border-b border-hair py-1">
      <dt className={`w-36 shrink-0 leading-tight ${bad ? 'text-red-edge' : ''}`}>
        {label}
        {(each.words || rival) && (
          <span className="block text-tiny text-ink-3">
            {each.words ||
              `or ${rival
                ?.filter((name) => name !== each.name)
                .map(labelOf)
                .join(', ')
                .toLowerCase()}`}
          </span>
        )}
      </dt>
      <dd className="flex items-center gap-2">
        {each.kind === 'number' && (
          <NumberField
            label={label}
            labelled={false}
            wide
            bad={bad}
            drill={/diameter_mm$|^drill_mm$/.test(each.name)}
            quantity={each.quantity}
            value={value === '' ? null : Number(value)}
            empty={needless}
            onCommit={(next) => onChange(next === null ? '' : String(next))}
          />
        )}
        {each.kind === 'number' && each.quantity === 'number' && each.unit && (
          <span className="text-small text-ink-2">{each.unit}</span>
        )}
        {(each.kind === 'choice' || each.kind === 'yes-no') && (
          <select
            aria-label={label}
            className="field"
            value={value || String(each.default ?? '')}
            onChange={(event) => onChange(event.target.value)}
          >
            {each.required && !value && <option value="">choose</option>}
            {each.choices.map((choice) => (
              <option key={choice} value={choice}>
                {each.kind === 'yes-no' ? (choice === 'true' ? 'yes' : 'no') : choice}
              </option>
            ))}
          </select>
        )}
        {each.kind === 'sections' && <Sections value={value} onChange={onChange} />}
      </dd>
    </div>
  )
}

function Results({ known, found }: { known: CalculatorWords; found: Record<string, unknown> }) {
  const { system } = useUnits()
  const other = system === 'metric' ? 'inch' : 'metric'
  const written = (name: string, value: unknown, units: 'metric' | 'inch'): string => {
    const [quantity, symbol] = known.units[name] ?? ['number', '']
    if (Array.isArray(value))
      return value.length
        ? value.map((each) => written(name, each, units).replace(/ [^ ]+$/, '')).join(', ') +
            (symbol ? ` ${unitOf(quantity, symbol, units)}` : '')
        : 'nothing'
    if (value === null || value === undefined) return 'none'
    if (typeof value !== 'number') return String(value).replaceAll('_', ' ')
    return precise(value, quantity, units) + (quantity === 'number' && symbol ? ` ${symbol}` : '')
  }
  return (
    <table className="w-full" aria-label="Results">
      <tbody>
        {Object.entries(found).map(([name, value]) => {
          const [here, there] = [written(name, value, system), written(name, value, other)]
          return (
            <tr key={name} className="border-b border-hair align-baseline">
              <th scope="row" className="py-1.5 pr-4">
                {labelOf(name)}
              </th>
              <td className="n py-1 text-right text-head font-semibold">
                {here}
                {here !== there && (
                  <span className="block text-small font-normal text-ink-2">{there}</span>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

const unitOf = (quantity: string, fallback: string, units: 'metric' | 'inch') =>
  unit(quantity, units) || fallback
