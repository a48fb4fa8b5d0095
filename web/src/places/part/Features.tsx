import { Figure } from '../../ui/Figure'
import type { Feature } from './feature'

const SIDE: Record<string, string> = {
  '+x': 'right',
  '-x': 'left',
  '+y': 'back',
  '-y': 'front',
  '+z': 'top',
  '-z': 'bottom',
}

export function Features({
  features,
  inBlank,
  working,
}: {
  features: Feature[]
  inBlank: string[]
  working: boolean
}) {
  if (working && features.length === 0)
    return (
      <p role="status" className="text-ink-2">
        Being looked for …
      </p>
    )
  if (features.length === 0) return <p className="text-ink-2">None yet.</p>
  const sides = (each: Feature) =>
    (Array.isArray(each.opens)
      ? each.opens
      : each.opens
        ? [each.opens]
        : each.faces
          ? [each.faces]
          : []
    )
      .map((side) => SIDE[side])
      .join(', ')
  const shown = features.filter((each) => each.kind !== 'flat')
  const flats = features.filter((each) => each.kind === 'flat')
  return (
    <table className="w-full max-w-[620px]">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1">
          <th>What</th>
          <th>Size</th>
          <th>At X, Y, Z</th>
          <th>Reached from</th>
        </tr>
      </thead>
      <tbody className="[&_td]:border-b [&_td]:border-hair [&_td]:py-1">
        {shown.map((each) => (
          <tr key={each.id}>
            <td>
              {each.kind === 'hole' ? (each.through ? 'Through hole' : 'Blind hole') : 'Pocket'}
            </td>
            <td>
              {each.kind === 'hole' ? (
                <>
                  Ø <Figure value={each.diameter_mm} quantity="size" trim bare />,{' '}
                  <Figure value={each.length_mm} quantity="size" trim bare /> long
                </>
              ) : (
                <>
                  <Figure value={each.depth_mm} quantity="size" trim bare /> deep, corners{' '}
                  <Figure value={each.corner_radius_mm} quantity="size" trim bare />
                </>
              )}
            </td>
            <td className="n text-small text-ink-2">
              {each.point?.map((value) => String(Number(value.toFixed(2)))).join(', ')}
            </td>
            <td>
              {inBlank.includes(each.id)
                ? 'in the blank already'
                : sides(each) || <span className="text-red-edge">no side of the part</span>}
            </td>
          </tr>
        ))}
        <tr>
          <td>{flats.length} flat faces</td>
          <td colSpan={2} className="text-ink-2">
            of them {flats.filter((each) => each.outermost).length} outermost
          </td>
          <td>{[...new Set(flats.map((each) => SIDE[each.faces ?? '']))].join(', ')}</td>
        </tr>
      </tbody>
    </table>
  )
}
