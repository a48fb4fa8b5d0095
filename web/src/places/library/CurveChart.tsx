import { useUnits } from '../../app/units'
import { show } from '../../ui/format'

export type Point = { rpm: number; power_kw: number; torque_nm: number }
export type Range = {
  name: string
  min_rpm: number
  max_rpm: number
  continuous: Point[]
  short_time: Point[]
}
export type Spot = {
  id: string
  number: number
  setup: number
  title: string
  rpm: number
  power: number
  torque: number
  over: boolean
}
const [LEFT, RIGHT, WIDE, HIGH] = [74, 362, 288, 150]

type ChartProps = {
  title: string
  quantity: string
  ranges: Range[]
  speed: number
  pick: (p: Point) => number
  spots: Spot[]
  value: (spot: Spot) => number
  at: string | null
  onAt: (id: string | null) => void
}

// One of a spindle's two curves, with a mark for each operation of a plan.
export function Chart({
  title,
  quantity,
  ranges,
  speed,
  pick,
  spots,
  value,
  at,
  onAt,
}: ChartProps) {
  const { system } = useUnits()
  const given = Math.max(
    ...ranges.flatMap((each) => [...each.continuous, ...each.short_time].map(pick)),
  )
  const most = Math.max(given, ...spots.map(value)) * 1.1
  const x = (rpm: number) => LEFT + (rpm / speed) * WIDE
  const y = (v: number) => HIGH + 14 - (v / most) * HIGH
  const line = (points: Point[]) =>
    points.map((p, k) => `${k ? 'L' : 'M'}${x(p.rpm).toFixed(1)} ${y(pick(p)).toFixed(1)}`).join('')
  return (
    <svg viewBox="0 0 400 192" className="w-full" role="group" aria-label={`${title} over speed`}>
      <path d={`M${LEFT} 8V${HIGH + 14}H${RIGHT}`} className="fill-none stroke-ink-3" />
      {ranges.map((each) => (
        <g key={each.name} className="fill-none">
          {each.short_time.length > 1 && (
            <path d={line(each.short_time)} className="stroke-quiet" strokeWidth="1.2" />
          )}
          <path d={line(each.continuous)} className="stroke-mark" strokeWidth="2" />
        </g>
      ))}
      <text x={LEFT - 6} y={y(given) + 4} textAnchor="end" className="n text-[11px]">
        {show(given, quantity, system)}
      </text>
      <text x={LEFT + 6} y={14} className="fill-ink-2 text-[11.5px]">
        {title}
      </text>
      <text x={RIGHT} y={HIGH + 28} textAnchor="end" className="n text-[11px]">
        {show(speed, 'spindle_speed', system)}
      </text>
      {spots.map((spot) => (
        <g
          key={spot.id}
          role="button"
          tabIndex={0}
          aria-label={`operation ${spot.number}`}
          className="cursor-pointer"
          onClick={() => onAt(at === spot.id ? null : spot.id)}
          onKeyDown={(event) => event.key === 'Enter' && onAt(spot.id)}
        >
          {spot.over ? (
            <rect
              x={x(spot.rpm) - 4}
              y={y(value(spot)) - 4}
              width="8"
              height="8"
              className="fill-red"
            />
          ) : (
            <circle
              cx={x(spot.rpm)}
              cy={y(value(spot))}
              r={at === spot.id ? 5 : 3.2}
              className={at === spot.id ? 'fill-brass' : 'fill-ink'}
            />
          )}
          {at === spot.id && (
            <text
              x={x(spot.rpm) + 8}
              y={y(value(spot)) - 5}
              className="n text-[11px] font-semibold"
            >
              {spot.number}
            </text>
          )}
        </g>
      ))}
    </svg>
  )
}
