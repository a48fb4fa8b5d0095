import type { StationResult } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { standing } from '../setups/wholeLoad'
import { type At, labels, type Mark, marks, pressedAlong } from './seen'
import type { Hold, Stood } from './useHold'
import type { Wall } from './useThin'

const WIDE = 456
const HIGH = 226
const ROOM = 40 // round what is drawn, for its arrows
const ARROW = 26
const NEAR = 20 // two labels so near would lie on each other
const UNDER = new Set(['parallel', 'chuck'])
const OVER = new Set(['clamp']) // lies on the part
type Box = [At, At]
type Shape = StationResult['bodies'][number]

// Where a part is touched, from above and from where the clamps are seen to close, and the cut at its weakest.
export function HeldDrawing({
  hold,
  station,
  cut,
  turns,
  clamps,
  walls,
  slides,
}: {
  hold: Hold
  turns: boolean // it is held before a spindle
  station: StationResult | undefined
  cut: Stood | undefined
  clamps: number[] | undefined // those that are on
  walls: Wall[] // thin places
  slides?: (bodies: Shape[], above: (at: At) => At) => React.ReactNode // what can be carried
}) {
  const pressed = pressedAlong(hold.touches)
  const bodies = (station ? standing(station, clamps) : []).filter(
    (each) => (each.axis ?? 'z') === 'z' && !each.turn && each.role !== 'bed',
  )
  const plan: Box = [
    [hold.low[0]!, hold.low[1]!],
    [hold.high[0]!, hold.high[1]!],
  ]
  const end: Box = [
    [hold.low[pressed]!, hold.low[2]!],
    [hold.high[pressed]!, hold.high[2]!],
  ]
  const wide = [plan, end].map(([low, high]) => high[0] - low[0])
  const scale = Math.min(
    (WIDE - 4 * ROOM) / (wide[0]! + wide[1]!),
    ...[plan, end].map(([low, high]) => (HIGH - 2 * ROOM - 14) / (high[1] - low[1])),
  )
  const spare = WIDE - (wide[0]! + wide[1]!) * scale - 4 * ROOM
  const left = wide[0]! * scale + 2 * ROOM + spare / 2
  const middle = HIGH / 2 + 7
  const place =
    ([low, high]: Box, x: number) =>
    ([a, b]: At): At => [
      x + ROOM + spare / 4 + (a - low[0]) * scale,
      middle - (b - (low[1] + high[1]) / 2) * scale,
    ]
  const above = place(plan, 0)
  const beside = place(end, left)
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full"
      role={slides ? 'group' : 'img'}
      aria-label="what holds it"
    >
      <defs>
        <clipPath id="hold-left">
          <rect width={left} height={HIGH} />
        </clipPath>
        <clipPath id="hold-right">
          <rect x={left} width={WIDE - left} height={HIGH} />
        </clipPath>
      </defs>
      <g clipPath="url(#hold-left)">
        {bodies
          .filter((each) => !UNDER.has(each.role) && !OVER.has(each.role))
          .map((each, k) => (
            <path
              key={k}
              d={ring(each.corners.map((at) => above([at[0]!, at[1]!])))}
              className={fill(each.role)}
            />
          ))}
        {hold.outline.map((each, k) => (
          <path
            key={k}
            d={ring(each.map((at) => above([at[0]!, at[1]!])))}
            className="fill-scribe stroke-ink"
          />
        ))}
        {walls.map((each, k) => (
          <path
            key={k}
            d={ring(each.outline.map(above))}
            className="fill-mark stroke-mark opacity-60"
          />
        ))}
        {bodies
          .filter((each) => OVER.has(each.role))
          .map((each, k) => (
            <path
              key={k}
              d={ring(each.corners.map((at) => above([at[0]!, at[1]!])))}
              className="fill-hair stroke-ink-3 opacity-80"
            />
          ))}
        <Marks of={marks(hold.touches, 0, 1)} at={above} />
        {cut && <Push cut={cut} across={0} up={1} at={above} />}
        {slides?.(bodies, above)}
      </g>
      <g clipPath="url(#hold-right)">
        {bodies.map((each, k) => {
          const spread = each.corners.map((at) => at[pressed]!)
          const [a, b] = [Math.min(...spread), Math.max(...spread)]
          const [x, y] = beside([a, each.top])
          const [x2, y2] = beside([b, each.bottom])
          return (
            <rect key={k} x={x} y={y} width={x2 - x} height={y2 - y} className={fill(each.role)} />
          )
        })}
        <path d={ring(corners(end).map(beside))} className="fill-scribe stroke-ink" />
        <Marks of={marks(hold.touches, pressed, 2)} at={beside} />
        {cut && <Push cut={cut} across={pressed} up={2} at={beside} />}
      </g>
      <text x={8} y={13} className="halo fill-ink text-[12px] font-semibold">
        {turns ? 'From the tail' : 'From above'}
      </text>
      <text x={left + 8} y={13} className="halo fill-ink text-[12px] font-semibold">
        {turns ? 'From beside' : pressed === 0 ? 'From the front' : 'From the right end'}
      </text>
    </svg>
  )
}

const fill = (role: string) =>
  role === 'pallet' ? 'fill-surface stroke-hair-strong' : 'fill-hair stroke-ink-3'
const corners = ([low, high]: Box): At[] => [low, [high[0], low[1]], high, [low[0], high[1]]]
const ring = (of: At[]) => `M${of.map((at) => at.map((v) => v.toFixed(1)).join(' ')).join('L')}Z`

function Marks({ of, at }: { of: Mark[]; at: (of: At) => At }) {
  const { system } = useUnits()
  return (
    <>
      {of.map(({ at: spot, by, touch }, k) => {
        const [x, y] = at(spot)
        const [a, b] = [by[0], -by[1]]
        return (
          <g key={k}>
            {(a || b) && (
              <path
                d={`M${x - a * ARROW} ${y - b * ARROW}L${x - a * 4} ${y - b * 4}`}
                className={touch.clamps ? 'stroke-ink' : 'stroke-ink-3'}
                strokeWidth={touch.clamps ? 2 : 1}
                strokeDasharray={touch.clamps ? undefined : '3 2'}
              />
            )}
            <circle
              cx={x}
              cy={y}
              r={3.5}
              className={touch.clamps ? 'fill-ink stroke-ink' : 'fill-paper stroke-ink'}
            />
          </g>
        )
      })}
      {labels(of, at, NEAR).map(({ at: [x, y], by, sum }, k) => {
        const [a, b] = [by[0], -by[1]]
        const level = Math.abs(a) > 0.9
        return (
          <text
            key={k}
            x={x - a * ARROW}
            y={level ? y - 7 : y - b * ARROW + (b > 0 ? -3 : 11)}
            textAnchor={level ? (a > 0 ? 'start' : 'end') : 'middle'}
            className="n halo fill-ink text-[10.5px]"
          >
            {show(sum, 'force', system)}
          </text>
        )
      })}
    </>
  )
}

// The cut where it is stood least.
function Push({
  cut,
  across,
  up,
  at,
}: {
  cut: Stood
  across: number
  up: number
  at: (of: At) => At
}) {
  if (cut.at.length < 3) return null
  const [x, y] = at([cut.at[across]!, cut.at[up]!])
  const way = ways(cut.towards)
  const long = Math.hypot(way[across]!, way[up]!)
  const [a, b] = long ? [way[across]! / long, -way[up]! / long] : [0, 0]
  return (
    <g className="stroke-brass" strokeWidth={2}>
      <circle cx={x} cy={y} r={5} className="fill-brass-wash" strokeWidth={1.5} />
      {long > 0 && (
        <path
          d={`M${x} ${y}l${a * 30} ${b * 30}m${-a * 8 - b * 4} ${-b * 8 + a * 4}l${a * 8 + b * 4} ${b * 8 - a * 4}l${-a * 8 + b * 4} ${-b * 8 - a * 4}`}
          className="fill-none"
        />
      )}
    </g>
  )
}

const ways = (words: string) =>
  ['X', 'Y', 'Z'].map((each) =>
    words.includes(`+${each}`) ? 1 : words.includes(`−${each}`) ? -1 : 0,
  )
