import { Link } from 'react-router'
import { Figure, Sentence } from '../../ui/Figure'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { type Covered, type Row as RowOf, together } from './coverage'
import { FarMark } from './FarKey'

// Every place of the part: how far it is, what roughs and finishes it, what is asked and how it is measured.
export function Coverage({ coverage }: { coverage: Covered }) {
  const { answer } = useFrame()
  const asked = answer.plan.part?.requirements ?? []
  const known = new Set(coverage.data?.flatMap((each) => each.asked))
  const loose = asked.filter((each) => !known.has(each.id))
  if (coverage.error) return <AskAgain again={() => void coverage.refetch()} />
  if (!coverage.data)
    return (
      <p role="status" className="text-ink-2">
        working out …
      </p>
    )
  if (coverage.data.length === 0) return <p className="text-ink-2">No part yet.</p>
  const whole = coverage.data.reduce((sum, each) => sum + each.area, 0)
  const unnamed = coverage.data.filter((each) => !each.feature)
  const share = unnamed.reduce((sum, each) => sum + each.area, 0) / whole
  return (
    <>
      <table className="w-full" aria-label="How far each place is">
        <thead className="text-small text-ink-2">
          <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:pb-1 [&>th]:font-normal">
            <th>Place</th>
            <th>Is</th>
            <th>Roughed by</th>
            <th>Finished by</th>
            <th>Asked there</th>
          </tr>
        </thead>
        <tbody className="[&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-3 [&_td]:align-top">
          {together(coverage.data).map((each, k) => (
            <Row key={k} place={each} />
          ))}
        </tbody>
      </table>
      {loose.length > 0 && (
        <p className="mt-2 text-small text-ink-2">
          Asked of no single place: {loose.map((each) => each.what).join(', ')}.
        </p>
      )}
      {share > 0.001 && (
        <p className="mt-1 text-small text-ink-2">
          <span className="n">{(100 * share).toFixed(share < 0.1 ? 1 : 0)} %</span> of its surface
          is of no hole, pocket or outer side: it is followed like the rest, but nothing is offered
          for it.
        </p>
      )}
    </>
  )
}

function Row({ place }: { place: RowOf }) {
  const { answer } = useFrame()
  const asked = (answer.plan.part?.requirements ?? []).filter((each) =>
    place.asked.includes(each.id),
  )
  return (
    <tr>
      <td>
        {place.count > 1 && <span className="n">{place.count} × </span>}
        <Sentence {...place.where} />
      </td>
      <td className="whitespace-nowrap">
        <span className="flex items-center gap-1.5">
          <FarMark stage={place.stage} />
          {place.blank && place.rough.length + place.finish.length === 0
            ? 'as the blank'
            : place.stage}
        </span>
        {place.stage !== 'finished' && place.stage !== 'checked' && (
          <span className="text-small text-ink-2">
            <Figure value={place.stands} quantity="size" /> stands
          </span>
        )}
      </td>
      <td>
        <Operations ids={place.rough} />
      </td>
      <td>
        <Operations ids={place.finish} />
      </td>
      <td>
        {asked.map((each) => (
          <span key={each.id} className="block">
            {each.what}
            {each.measured_with ? (
              <span className="text-small text-ink-2"> {each.measured_with}</span>
            ) : (
              <span className="text-small text-amber-edge"> not measured</span>
            )}
          </span>
        ))}
      </td>
    </tr>
  )
}

function Operations({ ids }: { ids: string[] }) {
  const { base, evaluation } = useFrame()
  const every =
    evaluation?.setups.flatMap((setup, k) =>
      setup.operations.map((op) => ({ ...op, name: `${k + 1}/${op.number}` })),
    ) ?? []
  if (ids.length === 0) return <span className="text-ink-3">–</span>
  return (
    <span className="flex gap-x-2 whitespace-nowrap">
      {ids.map((id) => {
        const op = every.find((each) => each.id === id)
        return (
          <Link key={id} className="link n" title={op?.title} to={`${base}/setups?op=${id}`}>
            {op?.name ?? id}
          </Link>
        )
      })}
    </span>
  )
}
