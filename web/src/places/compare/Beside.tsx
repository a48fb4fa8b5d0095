import { usePlan } from '../../api/hooks'
import { Bought } from '../../ui/Bought'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'
import { Curve } from '../time/Curve'
import { type Compared, difference, FIGURES } from './figures'
import { Strips } from './Strips'

// What both take and cost, drawn to one scale, and what is otherwise.
export function Beside({
  data,
  other,
  names,
}: {
  data: Compared
  other: number | null
  names: string[]
}) {
  const { answer } = useFrame()
  const quantity = answer.plan.quantity ?? 1
  const whole = data.sides.every((side) => side.whole)
  if (data.problem) return <p role="alert">{data.problem}</p>
  return (
    <>
      {other !== null && <Drawn other={other} names={names} />}
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)_340px] gap-8">
        <div>
          <Figures data={data} names={names} />
          <TooFew data={data} names={names} />
        </div>
        <div>
          <p className="mb-2">
            {said(
              data.sooner_from,
              data.sides.map((s) => s.batch_s),
              names,
              'sooner',
            )}
          </p>
          <Curve
            ordered={quantity}
            rows={data.curve.map((at) => ({
              quantity: at.quantity,
              value: at.batch_s[0]! / at.quantity,
            }))}
            beside={data.curve.map((at) => ({
              quantity: at.quantity,
              value: at.batch_s[1]! / at.quantity,
            }))}
            said={clock}
            title="Time of a part, by quantity"
          />
          <p className="my-2">
            {said(
              data.cheaper_from,
              data.sides.map((s) => s.known),
              names,
              'cheaper',
            )}
            {!whole && ' Not all of the costs is known.'}
          </p>
          <Curve
            ordered={quantity}
            rows={data.curve.map((at) => ({
              quantity: at.quantity,
              value: at.known[0]! / at.quantity,
            }))}
            beside={data.curve.map((at) => ({
              quantity: at.quantity,
              value: at.known[1]! / at.quantity,
            }))}
            said={(value) => value.toFixed(2)}
            title="Cost of a part, by quantity"
          />
        </div>
      </div>
      <h2 className="mt-4 mb-1 font-semibold">
        What is otherwise in <span className="text-brass">{names[1]}</span>
      </h2>
      {data.differences.length === 0 ? (
        <p className="text-ink-2">Nothing: both are planned the same.</p>
      ) : (
        <ul aria-label="Differences" className="columns-2 gap-8">
          {data.differences.map((each, k) => (
            <li key={k} className="break-inside-avoid border-b border-hair py-1">
              <Sentence text={each.text} values={each.values} />
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

// Both to one scale; an earlier draft is not drawn, its operations may be gone.
function Drawn({ other, names }: { other: number; names: string[] }) {
  const { evaluation } = useFrame()
  const second = usePlan(other)
  return evaluation && second.evaluation ? (
    <Strips of={[evaluation, second.evaluation]} names={names} />
  ) : null
}

function said(from: Compared['sooner_from'], values: number[], names: string[], word: string) {
  const [one = 0, other = 0] = values
  if (!from && one === other) return `Neither is ${word}.`
  if (!from)
    return (
      <>
        <b>{names[one < other ? 0 : 1]}</b> is {word} at every quantity.
      </>
    )
  return (
    <>
      From <b className="n">{from.quantity}</b> parts on <b>{names[from.side]}</b> is {word}; for
      fewer, {names[1 - from.side]}.
    </>
  )
}

// The tools of which the shop has too few for each.
function TooFew({ data, names }: { data: Compared; names: string[] }) {
  return data.sides.map(
    (side, k) =>
      side.buys.length > 0 && (
        <p key={k} className="mt-2 text-small">
          To buy for <b>{names[k]}</b>: <Bought buys={side.buys} />.
        </p>
      ),
  )
}

function Figures({ data, names }: { data: Compared; names: string[] }) {
  return (
    <table className="w-full self-start">
      <thead>
        <tr className="[&>th]:border-b [&>th]:border-ink [&>th]:py-1 [&>th]:pr-3 [&>th]:text-right">
          <th aria-label="Figure" />
          <th className="text-mark">{names[0]}</th>
          <th className="text-brass">{names[1]}</th>
          <th aria-label="Difference" />
        </tr>
      </thead>
      <tbody>
        {FIGURES.map((figure) => {
          const { text, speaks } = difference(figure, data.sides)
          return (
            <tr
              key={figure.label}
              className="[&>*]:border-b [&>*]:border-hair [&>*]:py-1 [&>*]:pr-3"
            >
              <th
                className={`text-left font-normal ${/^[a-z]/.test(figure.label) ? 'pl-3 text-ink-2' : ''}`}
              >
                {figure.label}
              </th>
              {data.sides.map((side, k) => (
                <td key={k} className="n text-right">
                  {figure.said(figure.of(side) ?? 0)}
                </td>
              ))}
              <td
                className={`n w-24 text-right ${speaks > 0 ? 'font-semibold' : speaks < 0 ? 'text-ink-3' : 'text-ink-2'}`}
              >
                {text}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
