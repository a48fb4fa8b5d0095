import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { toolShape } from '../../ui/toolShape'
import { along, turnShape, turns } from '../../ui/turnShape'
import { type Data, HEIGHT, Tall, WIDTH } from './Tall'

// A tool alone, tip down, to scale, with the lengths its record gives.
export function ToolDrawing({ data }: { data: Data }) {
  const { system } = useUnits()
  const whole = Number(data.overall_length_mm)
  if (!(whole > 0))
    return (
      <p className="text-small text-ink-2">There is nothing to draw without an overall length.</p>
    )
  if (turns(data)) return <TurningTool tool={data} stick={whole} />
  const shape = toolShape(data, whole)
  const widest = Math.max(...shape.map((each) => Math.max(each.lower, each.upper) * 2))
  const scale = Math.min((HEIGHT - 40) / whole, 110 / widest)
  const y = (z: number) => HEIGHT - 18 - z * scale
  const bar = (each: (typeof shape)[number]) =>
    `M${205 - each.lower * scale} ${y(each.low)}H${205 + each.lower * scale}L${205 + each.upper * scale} ${y(each.high)}H${205 - each.upper * scale}Z`
  const side = (widest / 2) * scale
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`${String(data.name)} to scale`}
      >
        {shape.map((each, k) => (
          <path
            key={k}
            d={bar(each)}
            className={each.part === 'edge' ? 'fill-[#ced7f2] stroke-ink' : 'fill-paper stroke-ink'}
            strokeWidth={each.part === 'edge' && each.high - each.low < 1.2 ? 0.35 : 1}
          />
        ))}
        <path
          d={`M205 ${y(-6 / scale)}V${y(whole + 6 / scale)}`}
          className="stroke-ink-3"
          strokeDasharray="10 3 2 3"
        />
        <Tall
          x={205 + side + 20}
          from={y(0)}
          to={y(Number(data.flute_length_mm))}
          words={show(Number(data.flute_length_mm), 'length', system)}
        />
        {Number(data.usable_length_mm) > Number(data.flute_length_mm) && (
          <Tall
            x={205 + side + 76}
            from={y(0)}
            to={y(Number(data.usable_length_mm))}
            words={show(Number(data.usable_length_mm), 'length', system)}
          />
        )}
        <Tall
          x={205 - side - 20}
          from={y(0)}
          to={y(whole)}
          words={show(whole, 'length', system)}
          left
        />
      </svg>
      <figcaption className="text-small text-ink-2">
        Cutting length, usable length and overall length.{' '}
        {data.included_angle_deg ? (
          <>
            Included angle{' '}
            <span className="n">{show(Number(data.included_angle_deg), 'angle', system)}</span>,
            half{' '}
            <span className="n">{show(Number(data.included_angle_deg) / 2, 'angle', system)}</span>
            .{' '}
          </>
        ) : null}
        Edge angle <span className="n">{show(Number(data.edge_angle_deg), 'angle', system)}</span>,
        its complement{' '}
        <span className="n">{show(90 - Number(data.edge_angle_deg), 'angle', system)}</span>.
      </figcaption>
    </figure>
  )
}

// A turning tool seen on its rake face: the work above, the chuck to the left.
export function TurningTool({
  tool,
  stick,
  block,
}: {
  tool: Data
  stick: number
  block?: { length_mm: number; front_diameter_mm: number }
}) {
  const { system } = useUnits()
  const upright = along(tool)
  const shank = Number(tool.shank_diameter_mm)
  const shapes: { part: string; corners: [number, number][] }[] = [...turnShape(tool, stick)]
  if (block) {
    const [middle, half] = [upright ? -shank / 2 : shank / 2, block.front_diameter_mm / 2]
    const corners: [number, number][] = upright
      ? [
          [middle - half, stick],
          [middle + half, stick],
          [middle + half, stick + block.length_mm],
          [middle - half, stick + block.length_mm],
        ]
      : [
          [stick, middle - half],
          [stick + block.length_mm, middle - half],
          [stick + block.length_mm, middle + half],
          [stick, middle + half],
        ]
    shapes.unshift({ part: 'block', corners })
  }
  // along the spindle to the right, away from the work downwards
  const spots = shapes.flatMap((each) => each.corners)
  const [u0, u1, v0, v1] = [
    Math.min(...spots.map((s) => s[0])),
    Math.max(...spots.map((s) => s[0])),
    Math.min(...spots.map((s) => s[1])),
    Math.max(...spots.map((s) => s[1])),
  ]
  const scale = Math.min(320 / (v1 - v0), 400 / (u1 - u0))
  const at = ([u, v]: [number, number]) =>
    `${(40 + (v - v0) * scale).toFixed(1)} ${(30 + (u - u0) * scale).toFixed(1)}`
  const fill: Record<string, string> = {
    edge: 'fill-[#ced7f2]',
    block: 'fill-[#dde2ea]',
    shank: 'fill-paper',
  }
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${Math.round((u1 - u0) * scale + 60)}`}
        className="w-full"
        role="img"
        aria-label={`${String(tool.name)} to scale, seen on its rake face`}
      >
        {shapes.map((each, k) => (
          <path
            key={k}
            d={`M${each.corners.map(at).join('L')}Z`}
            className={`${fill[each.part]} stroke-ink`}
          />
        ))}
        <path
          d={`M20 ${30 - u0 * scale}H${WIDTH - 20}`}
          className="stroke-ink-3"
          strokeDasharray="10 3 2 3"
        />
        {upright ? null : (
          <Tall
            x={WIDTH - 60}
            from={30 - u0 * scale}
            to={30 + (stick - u0) * scale}
            words={show(stick, 'length', system)}
          />
        )}
      </svg>
      <figcaption className="text-small text-ink-2">
        Seen on its rake face, the chuck to the left; the chain line goes through the tip.{' '}
        {tool.insert_width_mm ? (
          <>
            Edge <span className="n">{show(Number(tool.insert_width_mm), 'length', system)}</span>{' '}
            wide, up to{' '}
            <span className="n">{show(Number(tool.max_depth_mm), 'length', system)}</span>{' '}
            deep.{' '}
          </>
        ) : (
          <>
            Edge angle{' '}
            <span className="n">{show(Number(tool.edge_angle_deg), 'angle', system)}</span>, its
            complement{' '}
            <span className="n">{show(90 - Number(tool.edge_angle_deg), 'angle', system)}</span>;
            follows a contour down at up to{' '}
            <span className="n">{show(Number(tool.max_ramp_deg ?? 0), 'angle', system)}</span>.
          </>
        )}
      </figcaption>
    </figure>
  )
}
