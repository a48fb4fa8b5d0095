import { useUnits } from '../../app/units'
import { size } from '../../ui/format'
import { grounds } from './grounds'
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

// What a table tilts between, beside it.
export function Arms({ load, unit }: { load: Load; unit: number }) {
  return load.arms.map((each, k) => {
    const at = each.rings.flat()
    const across = at.map((p) => p[0]!)
    const [left, right, high] = [
      Math.min(...across),
      Math.max(...across),
      Math.max(...at.map((p) => p[1]!)),
    ]
    const west = left + right < 0 // its words end where it does, clear of what lies beside it
    return (
      <g key={k}>
        <path
          d={outline(each.rings)}
          className="fill-hair stroke-ink-3"
          vectorEffect="non-scaling-stroke"
        />
        <text
          transform={`translate(${west ? right : left} ${high + 5 * unit}) scale(1 -1)`}
          textAnchor={west ? 'end' : 'start'}
          className="fill-ink-2"
          style={{ fontSize: 11.5 * unit }}
        >
          {each.name}
        </text>
      </g>
    )
  })
}

// Rings of a body as a path.
export const outline = (rings: number[][][]) =>
  rings.map((ring) => `M${ring.map((each) => each.join(' ')).join('L')}Z`).join('')

// How far what holds a part reaches in front of it, but for the body of a vise.
export const lowest = (station: LoadStation) =>
  Math.min(
    ...station.shapes
      .filter((each) => each.role !== 'bed')
      .flatMap((each) => each.rings.flatMap((ring) => ring.map((at) => at[1]!))),
  )

type WordsProps = { at: string; code: string | null; bad: boolean; unit: number; below: number }

// Its number in the part, its offset in front of it; on faces, where they stand close, the table below has that.
export function Words({ at, code, bad, unit, below }: WordsProps) {
  const size = { fontSize: 11.5 * unit }
  return (
    <g transform="scale(1 -1)" className="pointer-events-none">
      <text textAnchor="middle" y={4 * unit} className="n fill-ink font-semibold" style={size}>
        {at}
      </text>
      {code !== null && (
        <text textAnchor="middle" y={-below + 12 * unit} className="n fill-brass" style={size}>
          {code || '–'}
        </text>
      )}
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

// The size of what they stand on, as on a drawing, and how far the axes go.
export function Sizes({ load, unit }: { load: Load; unit: number }) {
  const { system } = useUnits()
  const on = load.tombstone
  const all = grounds(load)
  const [wide, deep] = on ? [on.wide_mm, on.tall_mm] : (load.table as [number, number])
  const [reachX, reachY] = load.travel as [number, number]
  const foot = Math.max(deep / 2, on ? 0 : reachY) + 14 * unit
  const arms = load.arms.flatMap((each) => each.rings.flat().map((at) => at[0]!))
  const last = all.at(-1)!.x + all.at(-1)!.wide / 2
  const end = on ? last : Math.max(last, reachX, ...arms) // its words stand beside each other
  return (
    <g className="fill-ink-2" style={{ fontSize: 11.5 * unit }}>
      <text x={-end} y={foot}>
        {on ? 'each face ' : 'table '}
        <tspan className="n">
          {size(wide, system)} × {size(deep, system)}
        </tspan>
      </text>
      <text x={end} y={foot} textAnchor="end" className="fill-mark">
        dashed:{' '}
        {!on && (
          <>
            X ± <tspan className="n">{size(reachX, system)}</tspan>,{' '}
          </>
        )}
        Y ± <tspan className="n">{size(reachY, system)}</tspan>
      </text>
    </g>
  )
}
