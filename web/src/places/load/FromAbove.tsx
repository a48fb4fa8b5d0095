import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { outline } from './tableMarks'
import type { Load } from './useLoad'

const FILLS: Record<string, string> = {
  table: 'fill-surface stroke-quiet',
  tombstone: 'fill-hair stroke-ink-2',
  bed: 'fill-paper stroke-quiet',
  part: 'fill-paper stroke-ink',
}
const ORDER = [
  'table',
  'bed',
  'handle',
  'tombstone',
  'jaw',
  'stop',
  'parallel',
  'pallet',
  'heel',
  'part',
  'clamp',
]

// A tombstone seen from above, the spindle below: what goes round when it turns, and how much may.
export function FromAbove({ load }: { load: Load }) {
  const { system } = useUnits()
  const on = load.tombstone
  const swing = load.swings[0]
  if (!on) return null
  const far = Math.max(
    ...on.above.flatMap((each) =>
      each.rings.flatMap((ring) => ring.map((at) => Math.hypot(...at))),
    ),
    (swing?.most_mm ?? 0) / 2,
  )
  const half = far * 1.04
  const shapes = [...on.above].sort((a, b) => ORDER.indexOf(a.role) - ORDER.indexOf(b.role))
  const tight = swing && swing.most_mm > 0 && swing.across_mm > swing.most_mm
  return (
    <figure className="grid grid-cols-[170px_1fr] items-center gap-4 px-4 py-2">
      <svg
        viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
        className="aspect-square w-full"
        role="img"
        aria-label={`${on.name} from above`}
      >
        {shapes.map((each, k) => (
          <path
            key={k}
            d={outline(each.rings)}
            fillRule="evenodd"
            className={FILLS[each.role] ?? 'fill-mark-wash stroke-ink-2'}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {swing && (
          <circle
            r={swing.across_mm / 2}
            className={`fill-none ${tight ? 'stroke-red' : 'stroke-ink-3'}`}
            vectorEffect="non-scaling-stroke"
          />
        )}
        {swing && swing.most_mm > 0 && (
          <circle
            r={swing.most_mm / 2}
            className="fill-none stroke-mark"
            strokeDasharray="6 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
        <path d="M-12 0H12M0 -12V12" className="stroke-ink-2" vectorEffect="non-scaling-stroke" />
        <path
          d={`M0 ${half}V${half * 0.86}m-9 14l9 -14l9 14`}
          className="fill-none stroke-ink"
          strokeWidth={1.4}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption className="text-small text-ink-2">
        From above, the tool comes from below.
        {swing && (
          <>
            {' '}
            About {swing.axis}{' '}
            <b className={`n ${tight ? 'text-red' : ''}`}>
              Ø {show(swing.across_mm, 'length', system)}
            </b>{' '}
            goes round, farthest the {swing.body};{' '}
            {swing.most_mm > 0 ? (
              <>
                {load.machine} has room for{' '}
                <span className="n">Ø {show(swing.most_mm, 'length', system)}</span>.
              </>
            ) : (
              `nobody has said how much may on ${load.machine}.`
            )}
          </>
        )}
      </figcaption>
    </figure>
  )
}
