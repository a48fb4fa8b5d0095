import type { Item } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { toolShape } from '../../ui/toolShape'
import { turns } from '../../ui/turnShape'
import { WIDTH, HEIGHT, Tall, type Data } from './Tall'
import { TurningTool } from './ToolDrawing'

// A tool in its holder, to scale, tip down.
export function AssemblyDrawing({ data, all }: { data: Data; all: Item[] }) {
  const { system } = useUnits()
  const tool = all.find((item) => item.kind === 'tools' && item.key === data.tool)?.data
  const holder = all.find((item) => item.kind === 'holders' && item.key === data.holder)?.data
  if (!tool || !holder)
    return <p className="text-ink-2">Choose a tool and a holder to see them together.</p>
  if (turns(tool))
    return (
      <TurningTool
        tool={tool}
        stick={Number(data.stick_out_mm)}
        block={(holder.sections as { length_mm: number; front_diameter_mm: number }[])[0]}
      />
    )
  const sections = holder.sections as {
    length_mm: number
    front_diameter_mm: number
    back_diameter_mm: number
  }[]
  const stick = Number(data.stick_out_mm)
  const gauge = stick + sections.reduce((sum, each) => sum + each.length_mm, 0)
  const widest = Math.max(
    Number(tool.diameter_mm),
    ...sections.flatMap((each) => [each.front_diameter_mm, each.back_diameter_mm]),
  )
  const scale = Math.min((HEIGHT - 40) / gauge, 165 / widest)
  const middle = 205
  const y = (z: number) => HEIGHT - 18 - z * scale
  const bar = (z0: number, z1: number, lower: number, upper: number) =>
    `M${middle - (lower / 2) * scale} ${y(z0)}L${middle + (lower / 2) * scale} ${y(z0)}L${middle + (upper / 2) * scale} ${y(z1)}L${middle - (upper / 2) * scale} ${y(z1)}Z`
  const inside = Number(tool.overall_length_mm) - stick
  const starts = sections.map(
    (_, k) => stick + sections.slice(0, k).reduce((sum, each) => sum + each.length_mm, 0),
  )
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`${String(tool.name)} in ${String(holder.name)}, ${show(stick, 'length', system)} out`}
      >
        {sections.map((each, k) => {
          const low = starts[k] ?? stick
          return (
            <path
              key={k}
              d={bar(low, low + each.length_mm, each.front_diameter_mm, each.back_diameter_mm)}
              className="fill-[#dde2ea] stroke-ink"
            />
          )
        })}
        {inside > 0 && (
          <path
            d={bar(
              stick,
              Math.min(stick + inside, gauge),
              Number(tool.shank_diameter_mm),
              Number(tool.shank_diameter_mm),
            )}
            className="fill-none stroke-ink"
            strokeDasharray="4 3"
          />
        )}
        {toolShape(tool, stick).map((each, k) => (
          <path
            key={k}
            d={bar(each.low, each.high, each.lower * 2, each.upper * 2)}
            className={each.part === 'edge' ? 'fill-[#ced7f2] stroke-ink' : 'fill-paper stroke-ink'}
            strokeWidth={each.part === 'edge' && each.high - each.low < 1.2 ? 0.35 : 1}
          />
        ))}
        <path
          d={`M${middle} ${y(-6 / scale)}V${y(gauge + 6 / scale)}`}
          className="stroke-ink-3"
          strokeDasharray="10 3 2 3"
        />
        <Tall
          x={middle + (widest / 2) * scale + 24}
          from={y(0)}
          to={y(stick)}
          words={show(stick, 'length', system)}
        />
        <Tall
          x={middle - (widest / 2) * scale - 20}
          from={y(0)}
          to={y(gauge)}
          words={show(gauge, 'length', system)}
          left
        />
      </svg>
      <figcaption className="text-small text-ink-2">
        Stick-out is from the tip to the holder’s front face.{' '}
        {inside > 0
          ? `${show(inside, 'length', system)} of the shank is inside; the holder asks for ${show(Number(holder.grip_depth_mm), 'length', system)}.`
          : 'Nothing of the shank is left inside the holder.'}
      </figcaption>
    </figure>
  )
}
