import { useUnits } from '../../app/units'
import { size } from '../../ui/format'
import type { Load, LoadStation } from './useLoad'

// What stands beside the spindle, as far over the table as it comes while this load is cut.
export function Obstacles({
  load,
  half,
  unit,
}: {
  load: Load
  half: [number, number]
  unit: number
}) {
  return load.reached.map((each) => {
    const along = each.towards.startsWith('x')
    const plus = each.towards.endsWith('+')
    const end = half[along ? 0 : 1]
    const deep = plus ? end - each.at_mm : each.at_mm + end
    if (deep <= 0) return null
    const from = plus ? each.at_mm : -end
    const box = along
      ? { x: from, y: -half[1], width: deep, height: 2 * half[1] }
      : { x: -half[0], y: from, width: 2 * half[0], height: deep }
    const words = along ? [each.at_mm, half[1] - 14 * unit] : [-half[0] + 4 * unit, each.at_mm]
    return (
      <g key={each.name + each.towards}>
        <rect {...box} className="fill-hair stroke-ink-3" vectorEffect="non-scaling-stroke" />
        <text
          transform={`translate(${words[0]} ${words[1]! + (plus ? 4 : -14) * unit}) scale(1 -1)`}
          className="fill-ink-2"
          style={{ fontSize: 11.5 * unit }}
        >
          {each.name}
        </text>
      </g>
    )
  })
}

// How far what holds a part reaches in front of it, but for the body of a vise.
export const lowest = (station: LoadStation) =>
  Math.min(
    ...station.shapes
      .filter((each) => each.role !== 'bed')
      .flatMap((each) => each.rings.flatMap((ring) => ring.map((at) => at[1]!))),
  )

type WordsProps = { at: string; code: string; bad: boolean; unit: number; below: number }

// Its number in the part, its offset in front of it.
export function Words({ at, code, bad, unit, below }: WordsProps) {
  const size = { fontSize: 11.5 * unit }
  return (
    <g transform="scale(1 -1)" className="pointer-events-none">
      <text textAnchor="middle" y={4 * unit} className="n fill-ink font-semibold" style={size}>
        {at}
      </text>
      <text textAnchor="middle" y={-below + 12 * unit} className="n fill-brass" style={size}>
        {code || '–'}
      </text>
      {bad && (
        <rect
          x={-6 * unit}
          y={-below + 17 * unit}
          width={12 * unit}
          height={12 * unit}
          className="fill-red"
        />
      )}
    </g>
  )
}

// The table's size along its edges, as on a drawing, and how far the axes go.
export function Sizes({ load, unit }: { load: Load; unit: number }) {
  const { system } = useUnits()
  const [wide, deep] = load.table as [number, number]
  const [reachX, reachY] = load.travel as [number, number]
  const foot = Math.max(deep / 2, reachY) + 14 * unit
  return (
    <g className="fill-ink-2" style={{ fontSize: 11.5 * unit }}>
      <text x={-wide / 2} y={foot}>
        table{' '}
        <tspan className="n">
          {size(wide, system)} × {size(deep, system)}
        </tspan>
      </text>
      <text x={wide / 2} y={foot} textAnchor="end" className="fill-mark">
        dashed: X ± <tspan className="n">{size(reachX, system)}</tspan>, Y ±{' '}
        <tspan className="n">{size(reachY, system)}</tspan>
      </text>
    </g>
  )
}
