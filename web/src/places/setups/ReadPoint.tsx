import type { Edit } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { Figure, Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'
import { placesOf } from '../part/asked'
import type { Feature } from '../part/feature'
import { asText, type Pointed, type Read, useRead } from './useRead'

const READ = ['hole', 'pocket', 'flat', 'slanted', 'boss']

// One point or two of the part: what they are, where in every station, and what lies between.
export function ReadPoint({
  station,
  points,
  near,
  onPoint,
  onClear,
}: {
  station: string
  points: Pointed[]
  near: number
  onPoint: (point: Pointed) => void
  onClear: () => void
}) {
  const { answer, session } = useFrame()
  const { data, error, refetch } = useRead(answer, station, points, near)
  const features = (answer.features as Feature[]).filter((each) => READ.includes(each.kind))
  const setups = answer.plan.setups ?? []
  const names = Object.fromEntries(
    setups.flatMap((setup, n) =>
      (setup.stations ?? []).map((each, k) => [
        each.id,
        setup.stations!.length > 1 ? `Setup ${n + 1}, ${k + 1}` : `Setup ${n + 1}`,
      ]),
    ),
  )
  const shown = points.length > 0 ? data : undefined
  return (
    <div
      className="max-h-[45vh] overflow-auto border-t border-hair-strong px-4 py-2"
      role="region"
      aria-label="Read a point"
    >
      <div className="flex items-center gap-3">
        <span className="text-ink-2">
          {points.length === 0 ? 'Click on a hole, a face or a corner, or' : 'Another one:'}
        </span>
        <Choice
          label="Point"
          labelled={false}
          value=""
          options={[{ value: '', label: 'choose one' }, ...placesOf(features)]}
          onChange={(feature) => feature && onPoint({ at: [0, 0, 0], feature })}
        />
        {shown && (
          <>
            <button
              className="link ml-auto text-small"
              onClick={() => void navigator.clipboard?.writeText(asText(shown, names))}
            >
              copy
            </button>
            <button className="link text-small" onClick={onClear}>
              clear
            </button>
          </>
        )}
      </div>
      {error && (
        <p role="alert" className="mt-1">
          This could not be read.{' '}
          <button className="link" onClick={() => void refetch()}>
            Ask again
          </button>
        </p>
      )}
      {shown?.points.map((point, k) => (
        <Point key={k} point={point} number={k + 1} names={names} />
      ))}
      {shown?.between && <Apart between={shown.between} />}
      {shown && shown.offers.length > 0 && (
        <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
          {shown.offers.map((offer, k) => (
            <button key={k} className="link" onClick={() => session.send(offer.edits as Edit[])}>
              <Sentence text={offer.label} values={offer.values} />
            </button>
          ))}
        </div>
      )}
    </div>
  )
}

const CELL = '[&_td]:py-0.5 [&_td]:text-right [&_td:first-child]:text-left'

function Point({
  point,
  number,
  names,
}: {
  point: Read['points'][number]
  number: number
  names: Record<string, string>
}) {
  return (
    <table className={`mt-1.5 w-full text-small ${CELL}`}>
      <thead>
        <tr className="text-ink-2 [&>th]:border-b [&>th]:border-hair [&>th]:font-normal">
          <th className="text-left">
            <span className="n font-semibold text-ink">{number}</span>{' '}
            <span className="text-body text-ink">
              <Sentence {...point.said} />
            </span>
          </th>
          {['X', 'Y', 'Z'].map((letter) => (
            <th key={letter} className="n w-24 text-right">
              {letter}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {point.stations.map((each) => (
          <Rows key={each.station} of={each} name={names[each.station] ?? each.station} />
        ))}
      </tbody>
    </table>
  )
}

type At = Read['points'][number]['stations'][number]

function Rows({ of, name }: { of: At; name: string }) {
  const machine = of.positions.filter((each) => each.at)
  return (
    <>
      <tr>
        <td>{name}</td>
        {of.diameter_mm === null ? (
          of.at.map((each, k) => (
            <td key={k}>
              <Figure value={each} quantity="size" bare />
            </td>
          ))
        ) : (
          <>
            <td>
              Ø<Figure value={of.diameter_mm} quantity="size" bare />
            </td>
            <td />
            <td>
              <Figure value={of.at[2]} quantity="size" bare />
            </td>
          </>
        )}
      </tr>
      {(machine.length > 1 || machine.some((each) => each.reference === 'machine')) &&
        machine.map((each) => (
          <tr key={each.position} className="text-ink-2">
            <td className="pl-4">
              <span className="n">{each.code}</span>{' '}
              {each.reference === 'machine' ? 'in the machine' : 'from the first position'}
            </td>
            {each.at!.map((value, k) => (
              <td key={k}>
                <Figure value={value} quantity="size" bare />
              </td>
            ))}
          </tr>
        ))}
    </>
  )
}

function Apart({ between }: { between: NonNullable<Read['between']> }) {
  return (
    <p className="mt-1.5">
      <span className="text-ink-2">1 to 2:</span>{' '}
      <Figure value={between.distance_mm} quantity="size" />
      <span className="text-ink-2">
        , along the part X <Figure value={between.along[0]} quantity="size" bare />, Y{' '}
        <Figure value={between.along[1]} quantity="size" bare />, Z{' '}
        <Figure value={between.along[2]} quantity="size" bare />
        {between.angle_deg !== null && (
          <>
            , at <Figure value={between.angle_deg} quantity="angle" />
          </>
        )}
      </span>
    </p>
  )
}
