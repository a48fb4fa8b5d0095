import type { Item } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'

type Data = Record<string, unknown>
const WIDTH = 400
const HEIGHT = 460

// A tool in its holder, to scale, tip down.
export function AssemblyDrawing({ data, all }: { data: Data; all: Item[] }) {
  const { system } = useUnits()
  const tool = all.find((item) => item.kind === 'tools' && item.key === data.tool)?.data
  const holder = all.find((item) => item.kind === 'holders' && item.key === data.holder)?.data
  if (!tool || !holder) return <p className="text-ink-2">Choose a tool and a holder to see them together.</p>
  const sections = holder.sections as { length_mm: number; front_diameter_mm: number; back_diameter_mm: number }[]
  const stick = Number(data.stick_out_mm)
  const gauge = stick + sections.reduce((sum, each) => sum + each.length_mm, 0)
  const widest = Math.max(Number(tool.diameter_mm), ...sections.flatMap((each) => [each.front_diameter_mm, each.back_diameter_mm]))
  const scale = Math.min((HEIGHT - 40) / gauge, 165 / widest)
  const middle = 205
  const y = (z: number) => HEIGHT - 18 - z * scale
  const bar = (z0: number, z1: number, lower: number, upper: number) => `M${middle - (lower / 2) * scale} ${y(z0)}L${middle + (lower / 2) * scale} ${y(z0)}L${middle + (upper / 2) * scale} ${y(z1)}L${middle - (upper / 2) * scale} ${y(z1)}Z`
  const flutes = Math.min(Number(tool.flute_length_mm), stick)
  const inside = Number(tool.overall_length_mm) - stick
  const starts = sections.map((_, k) => stick + sections.slice(0, k).reduce((sum, each) => sum + each.length_mm, 0))
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={`${String(tool.name)} in ${String(holder.name)}, ${show(stick, 'length', system)} out`}>
        {sections.map((each, k) => {
          const low = starts[k] ?? stick
          return <path key={k} d={bar(low, low + each.length_mm, each.front_diameter_mm, each.back_diameter_mm)} className="fill-[#dde2ea] stroke-ink" />
        })}
        {inside > 0 && <path d={bar(stick, Math.min(stick + inside, gauge), Number(tool.shank_diameter_mm), Number(tool.shank_diameter_mm))} className="fill-none stroke-ink" strokeDasharray="4 3" />}
        {stick > flutes && <path d={bar(flutes, stick, Number(tool.shank_diameter_mm), Number(tool.shank_diameter_mm))} className="fill-paper stroke-ink" />}
        <path d={bar(0, flutes, Number(tool.diameter_mm), Number(tool.diameter_mm))} className="fill-[#ced7f2] stroke-ink" />
        <path d={`M${middle} ${y(-6 / scale)}V${y(gauge + 6 / scale)}`} className="stroke-ink-3" strokeDasharray="10 3 2 3" />
        <Tall x={middle + (widest / 2) * scale + 24} from={y(0)} to={y(stick)} words={show(stick, 'length', system)} />
        <Tall x={middle - (widest / 2) * scale - 20} from={y(0)} to={y(gauge)} words={show(gauge, 'length', system)} left />
      </svg>
      <figcaption className="text-small text-ink-2">Stick-out is from the tip to the holder’s front face. {inside > 0 ? `${show(inside, 'length', system)} of the shank is inside; the holder asks for ${show(Number(holder.grip_depth_mm), 'length', system)}.` : 'Nothing of the shank is left inside the holder.'}</figcaption>
    </figure>
  )
}

function Tall({ x, from, to, words, left = false }: { x: number; from: number; to: number; words: string; left?: boolean }) {
  return (
    <g className="stroke-ink">
      <path d={`M${x} ${from}V${to}M${x - 4} ${from}h8M${x - 4} ${to}h8`} fill="none" />
      <text x={x + (left ? -6 : 6)} y={(from + to) / 2 + 4} textAnchor={left ? 'end' : 'start'} className="n stroke-none fill-ink text-[13px]">{words}</text>
    </g>
  )
}

type Point = { rpm: number; power_kw: number; torque_nm: number }
// What the spindle gives over its speed: power as a line, torque as a dashed one, one pair a range.
export function CurveDrawing({ data }: { data: Data }) {
  const { system } = useUnits()
  const ranges = data.ranges as { name: string; min_rpm: number; max_rpm: number; continuous: Point[]; short_time: Point[] }[]
  const top = (pick: (p: Point) => number) => Math.max(...ranges.flatMap((each) => [...each.continuous, ...each.short_time].map(pick)), 1e-6)
  const [speed, power, torque] = [Math.max(...ranges.map((each) => each.max_rpm)), top((p) => p.power_kw) * 1.1, top((p) => p.torque_nm) * 1.1]
  const [left, bottom, wide, high] = [64, 240, 262, 220]
  const line = (points: Point[], pick: (p: Point) => number, most: number) => points.map((p, k) => `${k ? 'L' : 'M'}${left + (p.rpm / speed) * wide} ${bottom - (pick(p) / most) * high}`).join('')
  return (
    <figure>
      <svg viewBox={`0 0 400 ${284 + 15 * ranges.length}`} className="w-full" role="img" aria-label="Spindle power and torque over speed">
        <path d={`M${left} ${bottom - high}V${bottom}H${left + wide}V${bottom - high}`} className="fill-none stroke-ink-3" />
        {ranges.map((each, k) => (
          <g key={each.name}>
            {each.short_time.length > 1 && <path d={line(each.short_time, (p) => p.power_kw, power)} className="fill-none stroke-quiet" strokeWidth="1.4" />}
            <path d={line(each.continuous, (p) => p.power_kw, power)} className="fill-none stroke-mark" strokeWidth="2" />
            <path d={line(each.continuous, (p) => p.torque_nm, torque)} className="fill-none stroke-ink" strokeWidth="1.3" strokeDasharray="5 3" />
            <text x={left + 4} y={bottom + 34 + 15 * k} className="fill-ink-2 text-[11.5px]">{each.name}: {show(each.min_rpm, 'spindle_speed', system)} to {show(each.max_rpm, 'spindle_speed', system)}</text>
          </g>
        ))}
        <text x={left - 6} y={bottom - high + 6} textAnchor="end" className="n text-[11.5px]">{show(power / 1.1, 'power', system)}</text>
        <text x={left + wide + 5} y={bottom - high + 6} className="n text-[11.5px]">{show(torque / 1.1, 'torque', system)}</text>
        <text x={left + wide} y={bottom + 16} textAnchor="end" className="n text-[11.5px]">{show(speed, 'spindle_speed', system)}</text>
      </svg>
      <figcaption className="text-small text-ink-2">Power as a line (grey: short-time), torque dashed; at the {String(data.curves_at)}.</figcaption>
    </figure>
  )
}
