import { Figure } from '../../ui/Figure'
import { called, type Feature, type Row, rowsOf, SIDE } from './feature'

const SHOWN = 4 // places of alike features

// What was found in the solid: sizes as drawn, and from where each is reached.
export function Features({
  features,
  inBlank,
  working,
  onLay,
}: {
  features: Feature[]
  inBlank: string[]
  working: boolean
  onLay?: (face: number) => void
}) {
  if (working && features.length === 0)
    return (
      <p role="status" className="text-ink-2">
        Being looked for …
      </p>
    )
  if (features.length === 0) return <p className="text-ink-2">None yet.</p>
  const flats = features.filter((each) => each.kind === 'flat')
  return (
    <table className="w-full max-w-[680px]">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1">
          <th>What</th>
          <th>Size</th>
          <th>At X, Y, Z</th>
          <th>Reached from</th>
        </tr>
      </thead>
      <tbody className="[&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-3 [&_td]:align-top">
        {rowsOf(features, inBlank).map((row) => (
          <tr key={row.of.id}>
            <td className="whitespace-nowrap">
              {row.points.length > 1 && (
                <>
                  <span className="n">{row.points.length}</span> ×{' '}
                </>
              )}
              {capital(called(row.of))}
            </td>
            <td>
              <Size of={row.of} />
            </td>
            <td className="n whitespace-nowrap text-small text-ink-2">
              {row.points.slice(0, SHOWN).map((point) => (
                <span key={point.join()} className="block">
                  {point
                    .map((value) => String(Number(value.toFixed(row.of.kind === 'hole' ? 2 : 1))))
                    .join(', ')}
                </span>
              ))}
              {row.points.length > SHOWN && `and ${row.points.length - SHOWN} more`}
            </td>
            <td>
              <Reached row={row} inBlank={inBlank} onLay={onLay} />
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

function Reached({
  row,
  inBlank,
  onLay,
}: {
  row: Row
  inBlank: string[]
  onLay?: (face: number) => void
}) {
  const { of } = row
  const sides = row.sides.map((side) => SIDE[side])
  if (inBlank.includes(of.id)) return 'in the blank already'
  if (of.kind === 'slanted')
    return (
      <>
        {sides[0]}, at its angle
        {of.shape === 'face' && onLay && (
          <button className="link block" onClick={() => onLay(of.surfaces?.[0] ?? 0)}>
            Lay it square
          </button>
        )}
      </>
    )
  if (of.kind === 'boss') return `along ${(of.axis ?? '+z')[1]!.toUpperCase()}`
  if (of.kind === 'edge' && sides.length === 0) return 'round the part'
  return sides.join(', ') || <span className="text-red-edge">no side of the part</span>
}

function Size({ of }: { of: Feature }) {
  if (of.kind === 'boss' || of.kind === 'hole' || (of.kind === 'slanted' && of.shape === 'hole'))
    return (
      <>
        Ø <Length value={of.diameter_mm} />, <Length value={of.length_mm} /> long
        {of.lean_deg ? <Leans of={of} /> : null}
        {of.bottom_deg ? <>, ends in {degrees(of.bottom_deg)}</> : null}
        {of.sinks?.map((sink) => (
          <span key={sink.at} className="block text-small text-ink-2">
            {degrees(sink.angle_deg)} to Ø <Length value={sink.diameter_mm} /> at its{' '}
            {SIDE[sink.at]}
          </span>
        ))}
      </>
    )
  if (of.kind === 'pocket')
    return (
      <>
        <Length value={of.depth_mm} /> deep, corners <Length value={of.corner_radius_mm} />
        {of.across_flats_mm ? (
          <>
            , <Length value={of.across_flats_mm} /> across flats
          </>
        ) : null}
        {of.floor_radius_mm ? (
          <span className="block text-small text-ink-2">
            radius at the floor <Length value={of.floor_radius_mm} />
          </span>
        ) : null}
        {of.draft_deg ? (
          <span className="block text-small text-ink-2">
            walls lean {degrees(of.draft_deg)} outwards
          </span>
        ) : null}
      </>
    )
  if (of.kind === 'edge')
    return (
      <>
        {of.shape === 'round' && 'R '}
        <Length value={of.size_mm} />
        {of.shape === 'chamfer' && <> × {degrees(of.angle_deg)}</>}, <Length value={of.length_mm} />{' '}
        long
      </>
    )
  return (
    <>
      <Figure value={of.area_mm2} quantity="area" />
      <Leans of={of} />
    </>
  )
}

function Leans({ of }: { of: Feature }) {
  return (
    <>
      , {degrees(of.lean_deg)} from the {SIDE[String(of.opens)]}
    </>
  )
}

function Length({ value }: { value: number | undefined }) {
  return <Figure value={value} quantity="size" trim bare />
}

function degrees(value: number | undefined) {
  return <span className="n">{Number((value ?? 0).toFixed(2))}°</span>
}

function capital(words: string) {
  return words[0]!.toUpperCase() + words.slice(1)
}
