import type { StationResult } from '../api/client'

type Flip = NonNullable<StationResult['flip']>
type Point = [number, number, number]

const DEEP = [0.42, 0.32] as const // of a depth, sideways and up: the front is seen as it is
const FACES: [Point, Point[]][] = [
  [
    [0, -1, 0],
    [
      [-1, -1, -1],
      [1, -1, -1],
      [1, -1, 1],
      [-1, -1, 1],
    ],
  ],
  [
    [0, 0, 1],
    [
      [-1, -1, 1],
      [1, -1, 1],
      [1, 1, 1],
      [-1, 1, 1],
    ],
  ],
  [
    [1, 0, 0],
    [
      [1, -1, -1],
      [1, 1, -1],
      [1, 1, 1],
      [1, -1, 1],
    ],
  ],
]
const MARKED: Point = [-1, -1, 1]

const turned = (turn: number[], [x, y, z]: Point): Point =>
  [0, 3, 6].map((k) => Math.round(turn[k]! * x + turn[k + 1]! * y + turn[k + 2]! * z)) as Point

// A part before and after it is turned over: the side that was up is shaded, one corner marked.
export function FlipPicture({ flip, high = 34 }: { flip: Flip; high?: number }) {
  const after = [0, 1, 2].map((k) =>
    Math.abs([0, 1, 2].reduce((sum, j) => sum + flip.turn[3 * k + j]! * flip.size[j]!, 0)),
  )
  const most = Math.max(...flip.size, ...after)
  const scale = 22 / most
  const step = 56
  return (
    <svg
      viewBox={`0 0 ${2 * step} 34`}
      height={high}
      role="img"
      aria-label={`turned over; the corner that was left front on top is now its ${flip.lies}`}
    >
      <Block size={flip.size.map((v) => v * scale)} x={6} up={[0, 0, 1]} mark={MARKED} />
      <path d="M46 18h9m-3.5 -3.5l3.5 3.5l-3.5 3.5" className="fill-none stroke-ink" />
      <Block
        size={after.map((v) => v * scale)}
        x={step + 8}
        up={turned(flip.turn, [0, 0, 1])}
        mark={turned(flip.turn, MARKED)}
      />
    </svg>
  )
}

type BlockProps = { size: number[]; x: number; up: Point; mark: Point }

function Block({ size, x, up, mark }: BlockProps) {
  const at = (corner: Point): [number, number] => {
    const [a, b, c] = corner.map((v, k) => ((v + 1) / 2) * size[k]!) as Point
    return [x + a + DEEP[0] * b, 31 - c - DEEP[1] * b]
  }
  const [dotX, dotY] = at(mark)
  const hidden = mark.join() === '-1,1,-1'
  return (
    <g strokeLinejoin="round">
      {FACES.map(([looks, corners]) => (
        <path
          key={looks.join()}
          d={`M${corners.map((each) => at(each).join(' ')).join('L')}Z`}
          className={`stroke-ink ${looks.join() === up.join() ? 'fill-quiet' : 'fill-paper'}`}
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
