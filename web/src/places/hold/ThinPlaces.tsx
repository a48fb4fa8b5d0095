import { useUnits } from '../../app/units'
import { Figure } from '../../ui/Figure'
import { show } from '../../ui/format'
import { Mark } from '../../ui/Mark'
import type { Wall } from './useThin'
import { carriedLines, shade, sizeOf } from './wallMap'

const WIDE = 232
const HIGH = 118
const ROOM = 12
// as solid as paper, so that cells may lie on each other's edges
const ink = (dark: number) =>
  `color-mix(in srgb, var(--color-mark) ${Math.round(100 * dark)}%, var(--color-surface))`

// Walls and bars of the stock once an operation is done: each flat, the thinner the darker, with what carries it.
export function ThinPlaces({ walls, number }: { walls: Wall[]; number: number }) {
  if (walls.length === 0) return null
  const every = walls.flatMap((wall) => wall.cells.map(([, , thick]) => thick))
  const range: [number, number] = [Math.min(...every), Math.max(...every)]
  return (
    <section className="border-b border-hair px-4 py-2" aria-label="Thin places">
      <h3 className="flex items-baseline justify-between gap-3 text-body font-semibold">
        <span>
          Thin once operation <span className="n">{number}</span> is done
        </span>
        <Scale range={range} />
      </h3>
      <ol className="grid gap-2">
        {walls.map((wall, k) => (
          <li key={k} className="grid grid-cols-[232px_1fr] items-center gap-3">
            <WallMap wall={wall} number={k + 1} range={range} />
            <Told wall={wall} number={k + 1} />
          </li>
        ))}
      </ol>
    </section>
  )
}

function Told({ wall, number }: { wall: Wall; number: number }) {
  return (
    <div className="grid gap-0.5 text-body">
      <p>
        <b className="n">{number}</b> <Figure value={wall.thick_mm} quantity="length" /> thick along{' '}
        <span className="n">{wall.thin_along}</span>,{' '}
        <Figure value={wall.far_mm} quantity="length" /> from what carries it
      </p>
      <p className={wall.slender ? 'font-semibold' : ''}>
        {wall.slender && <Mark state="look" size={12} label="slender" />}{' '}
        <Figure value={wall.ratio} quantity="factor" /> its thickness
      </p>
      {!wall.cut ? (
        <p className="text-ink-2">Not cut here.</p>
      ) : wall.bends_mm === null ? (
        <p className="text-ink-2">How far this cut bends it is not known.</p>
      ) : (
        <p>
          <Figure value={wall.force_n ?? 0} quantity="force" /> bend it{' '}
          <b>
            <Figure value={wall.bends_mm} quantity="size" />
          </b>
        </p>
      )}
      {wall.held.length > 0 && <p className="text-ink-2">What holds the part supports it.</p>}
    </div>
  )
}

function Scale({ range: [thinnest, thickest] }: { range: [number, number] }) {
  const { system } = useUnits()
  const steps = [0, 0.25, 0.5, 0.75, 1].map((share) => thinnest + share * (thickest - thinnest))
  return (
    <span className="flex items-center gap-1 text-small font-normal text-ink-2">
      <span className="n">{show(thinnest, 'length', system)}</span>
      <svg width={60} height={9} aria-hidden>
        {steps.map((each, k) => (
          <rect
            key={k}
            x={12 * k}
            width={12}
            height={9}
            style={{ fill: ink(shade(each, thinnest, thickest)) }}
          />
        ))}
      </svg>
      <span className="n">{show(thickest, 'length', system)}</span>
    </span>
  )
}

function WallMap({ wall, number, range }: { wall: Wall; number: number; range: [number, number] }) {
  const [across, up] = sizeOf(wall)
  const cell = Math.min((WIDE - 2 * ROOM) / across, (HIGH - 2 * ROOM) / up, 12)
  const [left, top] = [(WIDE - across * cell) / 2, (HIGH - up * cell) / 2]
  const y = (j: number) => top + (up - 1 - j) * cell
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      width={WIDE}
      role="img"
      aria-label={`thin place ${number}: how thick it is`}
    >
      {wall.cells.map(([i, j, thick]) => (
        <rect
          key={`${i} ${j}`}
          x={left + i * cell}
          y={y(j)}
          width={cell + 0.5}
          height={cell + 0.5}
          style={{ fill: ink(shade(thick, ...range)) }}
        />
      ))}
      {wall.held.map(([i, j]) => (
        <circle
          key={`${i} ${j}`}
          cx={left + (i + 0.5) * cell}
          cy={y(j) + cell / 2}
          r={Math.min(1.4, cell / 3)}
          className="fill-paper"
        />
      ))}
      {carriedLines(wall).map(([a, b, c, d], k) => (
        <path
          key={k}
          d={`M${left + a * cell} ${top + b * cell}L${left + c * cell} ${top + d * cell}`}
          className="stroke-ink"
          strokeWidth={3}
        />
      ))}
      {wall.worst && (
        <circle
          cx={left + (wall.worst[0] + 0.5) * cell}
          cy={y(wall.worst[1]) + cell / 2}
          r={5}
          className="fill-brass-wash stroke-brass"
          strokeWidth={2}
        />
      )}
      <text x={2} y={HIGH - 3} className="n fill-ink-2 text-[11px]">
        {wall.across}
      </text>
      <text x={2} y={11} className="n fill-ink-2 text-[11px]">
        {wall.up}
      </text>
    </svg>
  )
}
