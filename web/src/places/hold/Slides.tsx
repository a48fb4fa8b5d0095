import { useEffect, useRef, useState } from 'react'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { snapped, step } from '../load/where'
import type { Slidable } from './clamps'
import type { At } from './seen'

const REST_MS = 350 // arrow keys are sent when they rest
const SIDES: Record<string, string> = { '-x': 'left', '+x': 'right', '-y': 'front', '+y': 'back' }

type Shape = { name: string; of?: string; corners: number[][] }
type Props = {
  rows: Slidable[]
  bodies: Shape[]
  above: (at: At) => At
  onPut: (row: Slidable, at: number) => void
}

// Clamps and dowels carried along their sides, by mouse or by arrow keys; sent where they come to rest.
export function Slides({ rows, bodies, above, onPut }: Props) {
  return rows.map((row) => (
    <Slide
      key={row.name}
      row={row}
      shapes={bodies.filter((each) => each.name === row.name || each.of === row.name)}
      above={above}
      onPut={onPut}
    />
  ))
}

function Slide({
  row,
  shapes,
  above,
  onPut,
}: {
  row: Slidable
  shapes: Shape[]
  above: (at: At) => At
  onPut: Props['onPut']
}) {
  const { system } = useUnits()
  const inch = system === 'inch'
  const [by, setBy] = useState(0)
  const from = useRef<{ x: number; y: number; pixels: number } | null>(null)
  const rest = useRef(0)
  const [level, upright] = [
    above([1, 0])[0] - above([0, 0])[0],
    above([0, 0])[1] - above([0, 1])[1],
  ]
  const along = row.side[1] === 'y' ? 0 : 1 // in plan
  const settle = (way: number) => {
    window.clearTimeout(rest.current)
    from.current = null
    if (way) onPut(row, Math.round(1000 * (row.at_mm + way)) / 1000)
    setBy(0)
  }
  useEffect(() => () => window.clearTimeout(rest.current), [])
  if (shapes.length === 0) return null
  const down = (event: React.PointerEvent<SVGGElement>) => {
    const pixels = event.currentTarget.ownerSVGElement!.getScreenCTM()!.a
    from.current = { x: event.clientX, y: event.clientY, pixels }
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  const move = (event: React.PointerEvent) => {
    const start = from.current
    if (!start) return
    const way = along === 0 ? event.clientX - start.x : start.y - event.clientY
    setBy(snapped(way / start.pixels / (along === 0 ? level : upright), inch))
  }
  const key = (event: React.KeyboardEvent) => {
    const way = step(event.key, event.shiftKey, inch)?.[along]
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    const next = by + way
    setBy(next)
    window.clearTimeout(rest.current)
    rest.current = window.setTimeout(() => settle(next), REST_MS)
  }
  const at = show(row.at_mm + by, 'length', system)
  const off = along === 0 ? `${by * level} 0` : `0 ${-by * upright}`
  const spot = above(middle(shapes[0]!.corners))
  return (
    <g
      tabIndex={0}
      role="slider"
      aria-label={`${row.name} along the ${SIDES[row.side]}`}
      aria-valuenow={row.at_mm + by}
      aria-valuetext={`${at} from the middle`}
      aria-orientation={along === 0 ? 'horizontal' : 'vertical'}
      className={`${along === 0 ? 'cursor-ew-resize' : 'cursor-ns-resize'} touch-none outline-none focus-visible:[&_path]:stroke-brass focus-visible:[&_path]:[stroke-width:2.5]`}
      transform={`translate(${off})`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => settle(by)}
      onPointerCancel={() => settle(0)}
      onKeyDown={key}
    >
      {shapes.map((each, k) => (
        <path
          key={k}
          d={ring(each.corners.map((corner) => above([corner[0]!, corner[1]!])))}
          className={by ? 'fill-brass-wash stroke-brass' : 'fill-transparent stroke-transparent'}
        />
      ))}
      {by !== 0 && (
        <text
          x={spot[0]}
          y={spot[1] - 6}
          textAnchor="middle"
          className="n halo fill-ink text-[11px]"
        >
          {at}
        </text>
      )}
    </g>
  )
}

const middle = (corners: number[][]): At => [
  corners.reduce((sum, each) => sum + each[0]!, 0) / corners.length,
  corners.reduce((sum, each) => sum + each[1]!, 0) / corners.length,
]
const ring = (of: At[]) => `M${of.map((at) => at.map((v) => v.toFixed(1)).join(' ')).join('L')}Z`
