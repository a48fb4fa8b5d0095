import type { StationResult } from '../api/client'

type Flip = NonNullable<StationResult['flip']>
type Point = [number, number, number]

const DEEP = [0.42, 0.32] as const // of a depth, sideways and up: the front is seen as it is
const VIEWER: Point = [DEEP[0], -1, DEEP[1]] // the direction that is seen as a point
const SIGNS = [-1, 1] as const
const CORNERS = SIGNS.flatMap((x) => SIGNS.flatMap((y) => SIGNS.map((z): Point => [x, y, z])))
const MARKED = CORNERS.findIndex((each) => each.join() === '-1,-1,1')
const UNTURNED = [1, 0, 0, 0, 1, 0, 0, 0, 1]

const turned = (turn: number[], [x, y, z]: Point): Point =>
  [0, 3, 6].map((k) => turn[k]! * x + turn[k + 1]! * y + turn[k + 2]! * z) as Point

const flat = ([x, y, z]: Point): [number, number] => [x + DEEP[0] * y, -z - DEEP[1] * y]

const wide = (box: Point[]) =>
  Math.max(
    ...[0, 1, 2].map(
      (k) => Math.max(...box.map((each) => each[k]!)) - Math.min(...box.map((each) => each[k]!)),
    ),
  )

// The corners of a face, round about.
function round(axis: number, sign: number): number[] {
  const own = CORNERS.flatMap((each, k) => (each[axis] === sign ? [k] : []))
  return [own[0]!, own[1]!, own[3]!, own[2]!]
}

// A part before and after it is turned over or raised: the side that was up is shaded, one corner marked.
export function FlipPicture({ flip, high = 34 }: { flip: Flip; high?: number }) {
  const lying = CORNERS.map((each) => each.map((v, k) => (v * flip.size[k]!) / 2) as Point)
  const after = lying.map((each) => turned(flip.turn, each))
  const scale = 22 / Math.max(wide(lying), wide(after))
  const step = 56
  return (
    <svg
      viewBox={`0 0 ${2 * step} 34`}
      height={high}
      role="img"
      aria-label={`turned over; the corner that was left front on top is now its ${flip.lies}`}
    >
      <Block corners={lying} scale={scale} x={6} turn={UNTURNED} />
      <path d="M46 18h9m-3.5 -3.5l3.5 3.5l-3.5 3.5" className="fill-none stroke-ink" />
      <Block corners={after} scale={scale} x={step + 8} turn={flip.turn} />
    </svg>
  )
}

type BlockProps = { corners: Point[]; scale: number; x: number; turn: number[] }

function Block({ corners, scale, x, turn }: BlockProps) {
  const seen = corners.map(flat)
  const left = Math.min(...seen.map(([a]) => a))
  const low = Math.max(...seen.map(([, b]) => b))
  const at = (k: number) => [x + (seen[k]![0] - left) * scale, 31 + (seen[k]![1] - low) * scale]
  const shown = [0, 1, 2].flatMap((axis) =>
    SIGNS.flatMap((sign) => {
      const looks = [0, 3, 6].map((k) => sign * turn[k + axis]!)
      const towards = looks.reduce((sum, v, k) => sum + v * VIEWER[k]!, 0)
      return towards > 1e-9 ? [{ axis, sign, around: round(axis, sign) }] : []
    }),
  )
  const hidden = !shown.some((each) => each.around.includes(MARKED))
  const [dotX, dotY] = at(MARKED)
  return (
    <g strokeLinejoin="round">
      {shown.map(({ axis, sign, around }) => (
        <path
          key={`${axis}${sign}`}
          d={`M${around.map((k) => at(k).join(' ')).join('L')}Z`}
          className={`stroke-ink ${axis === 2 && sign > 0 ? 'fill-quiet' : 'fill-paper'}`}
          strokeWidth={0.8}
        />
      ))}
      <circle
        cx={dotX}
        cy={dotY}
        r={1.9}
        className={`stroke-ink ${hidden ? 'fill-paper' : 'fill-ink'}`}
      />
    </g>
  )
}
