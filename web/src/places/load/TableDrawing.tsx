import { useEffect, useRef, useState } from 'react'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { Grounds } from './Ground'
import { grounds, halves } from './grounds'
import { Arms, lowest, Obstacles, outline, Sizes, Words } from './tableMarks'
import { type Load, type LoadStation } from './useLoad'
import { type Point, snapped, step } from './where'

const ROOM_MM = 46 // round the table, for its sizes
const REST_MS = 350 // arrow keys are sent when they rest

type Taken = { station: string; position: number; by: Point }
type Props = {
  load: Load
  marked: Set<string> // positions that something is wrong with, as `station:position`
  names: Record<string, string>
  free: Set<string> // stations whose positions stand each for itself
  onCarry: (station: string, position: number, by: Point) => void
}

// The table from above, to scale: what stands on it is carried by mouse or by arrow keys.
export function TableDrawing({ load, marked, names, free, onCarry }: Props) {
  const { system } = useUnits()
  const inch = system === 'inch'
  const [taken, setTaken] = useState<Taken | null>(null)
  const from = useRef<{ x: number; y: number; scale: number } | null>(null)
  const svg = useRef<SVGSVGElement>(null)
  const half = halves(load, ROOM_MM)
  const ground = Object.fromEntries(grounds(load).map((each) => [each.face, each.x]))
  const unit = useUnit(svg, 2 * half[0], 2 * half[1])
  const rest = useRef(0)
  const last = useRef<Taken | null>(null)
  const settle = (now: Taken | null) => {
    window.clearTimeout(rest.current)
    last.current = null
    if (now && (now.by[0] || now.by[1])) onCarry(now.station, now.position, now.by)
    setTaken(null)
  }
  const latest = useRef(settle)
  useEffect(() => {
    latest.current = settle
  })
  const down = (station: string, position: number) => (event: React.PointerEvent) => {
    if (last.current) settle(last.current) // what arrow keys have carried and not yet sent
    const box = svg.current!.getScreenCTM()!
    from.current = { x: event.clientX, y: event.clientY, scale: box.a }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    setTaken({ station, position, by: [0, 0] })
  }
  const move = (event: React.PointerEvent) => {
    const start = from.current
    if (!start || !taken) return
    const [x, y] = [event.clientX - start.x, start.y - event.clientY].map((each) =>
      snapped(each / start.scale, inch),
    )
    setTaken({ ...taken, by: [x!, y!] })
  }
  const up = () => {
    from.current = null
    settle(taken)
  }
  const key = (station: string, position: number) => (event: React.KeyboardEvent) => {
    const by = step(event.key, event.shiftKey, inch)
    if (!by) return
    event.preventDefault()
    event.stopPropagation()
    const same = last.current?.station === station && last.current.position === position
    const before = same ? last.current!.by : ([0, 0] as const)
    const now: Taken = { station, position, by: [before[0] + by[0], before[1] + by[1]] }
    last.current = now
    setTaken(now)
    window.clearTimeout(rest.current)
    rest.current = window.setTimeout(() => latest.current(now), REST_MS)
  }
  return (
    <svg
      ref={svg}
      viewBox={`${-half[0]} ${-half[1]} ${2 * half[0]} ${2 * half[1]}`}
      className="h-full w-full touch-none select-none"
      role="group"
      aria-label={load.tombstone?.name ?? `Table of ${load.machine} from above`}
    >
      <g vectorEffect="non-scaling-stroke" transform="scale(1 -1)">
        <Grounds load={load} half={half} unit={unit} />
        <Arms load={load} unit={unit} />
        <Obstacles load={load} half={half} unit={unit} />
        {load.stations.map((station, s) =>
          station.spots.map((spot, k) => {
            const whole = taken?.station === station.id
            const mine = whole && (taken.position === k || !free.has(station.id))
            const [x, y] = mine
              ? [spot.x_mm + taken.by[0], spot.y_mm + taken.by[1]]
              : [spot.x_mm, spot.y_mm]
            return (
              <g
                key={`${station.id}:${k}`}
                transform={`translate(${(ground[spot.face] ?? 0) + x!} ${y})`}
                tabIndex={0}
                role="button"
                aria-label={`${names[station.id] ?? ''}Position ${k + 1}, ${spot.code || 'no offset left'}, ${spot.face ? `face ${spot.face}, ` : ''}at ${show(x, 'length', system)}, ${show(y, 'length', system)}`}
                className="cursor-move outline-none focus-visible:[&_.part]:stroke-brass focus-visible:[&_.part]:[stroke-width:3]"
                onPointerDown={down(station.id, k)}
                onPointerMove={move}
                onPointerUp={up}
                onPointerCancel={() => settle(null)}
                onKeyDown={key(station.id, k)}
              >
                <Body station={station} bad={marked.has(`${station.id}:${k}`)} />
                <Words
                  at={load.stations.length > 1 ? `${s + 1}·${k + 1}` : `${k + 1}`}
                  code={load.tombstone ? null : spot.code}
                  bad={marked.has(`${station.id}:${k}`)}
                  unit={unit}
                  below={lowest(station)}
                />
              </g>
            )
          }),
        )}
      </g>
      <Sizes load={load} unit={unit} />
    </svg>
  )
}

const FILLS: Record<string, string> = {
  bed: 'fill-surface stroke-quiet',
  jaw: 'fill-mark-wash stroke-ink-2',
  part: 'part fill-paper stroke-ink',
}

function Body({ station, bad }: { station: LoadStation; bad: boolean }) {
  const order = [
    'bed',
    'handle',
    'step',
    'jaw',
    'nose',
    'chuck',
    'pallet',
    'heel',
    'dowel',
    'fixture',
    'part',
    'clamp',
  ]
  const shapes = [...station.shapes].sort((a, b) => order.indexOf(a.role) - order.indexOf(b.role))
  return shapes.map((shape, k) => (
    <path
      key={k}
      d={outline(shape.rings)}
      fillRule="evenodd"
      className={`${FILLS[shape.role] ?? FILLS.jaw} ${bad && shape.role === 'part' ? '!stroke-red' : ''}`}
      strokeWidth={shape.role === 'part' ? 1.4 : 1}
      vectorEffect="non-scaling-stroke"
    />
  ))
}

// mm of the table for a pixel of the screen: words keep their size.
function useUnit(svg: React.RefObject<SVGSVGElement | null>, wide: number, deep: number) {
  const [unit, setUnit] = useState(2)
  useEffect(() => {
    const box = svg.current
    if (!box) return
    const seen = new ResizeObserver(() =>
      setUnit(Math.max(wide / box.clientWidth, deep / box.clientHeight)),
    )
    seen.observe(box)
    return () => seen.disconnect()
  }, [svg, wide, deep])
  return unit
}
