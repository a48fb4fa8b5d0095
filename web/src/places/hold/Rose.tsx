import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { petals, scaleOf } from './seen'
import type { Hold } from './useHold'

const R = 84
const WORDS = 'fill-ink-2 text-[11px]'

// How many times a cut is stood in every direction it can push, turned as the part lies.
export function Rose({ hold }: { hold: Hold }) {
  const { system } = useUnits()
  const rose = hold.rose
  if (!rose) return null
  const scale = scaleOf(rose.factors, hold.asked)
  const spots = petals(rose.factors, rose.along, rose.aside, scale, R)
  const weakest = rose.factors.indexOf(Math.min(...rose.factors))
  const least = rose.factors[weakest]!
  const [x, y] = spots[weakest]!
  const upright = Math.abs(rose.along[2] ?? 0) < 0.5 && Math.abs(rose.aside[2] ?? 0) < 0.5
  const asked = (hold.asked / scale) * R
  const bad = least < hold.asked
  const line = spots.map(([a, b]) => `${a.toFixed(1)},${(-b).toFixed(1)}`).join(' ')
  return (
    <svg
      viewBox={`${-R - 22} ${-R - 20} ${2 * R + 44} ${2 * R + 40}`}
      className="w-full"
      role="img"
      aria-label={`stood ${show(least, 'factor', system)} where it is weakest`}
    >
      {Array.from({ length: 24 }, (_, k) => {
        const turn = (Math.PI * k) / 12
        const [c, s] = [Math.cos(turn), Math.sin(turn)]
        const long = k % 6 ? 4 : 8
        return (
          <path
            key={k}
            d={`M${c * R} ${s * R}L${c * (R + long)} ${s * (R + long)}`}
            className="stroke-quiet"
          />
        )
      })}
      <circle r={R} className="fill-none stroke-hair-strong" />
      <circle r={R / 2} className="fill-none stroke-hair" strokeDasharray="2 3" />
      <path d={`M${-R} 0H${R}M0 ${-R}V${R}`} className="stroke-hair" strokeDasharray="8 3 2 3" />
      <circle r={asked} className={bad ? 'fill-red-wash stroke-red' : 'fill-hair stroke-ink-2'} />
      <polygon points={line} className="fill-none stroke-brass" strokeWidth={1.8} />
      <text y={4} textAnchor="middle" className={`n ${WORDS}`}>
        {show(hold.asked, 'factor', system)}
      </text>
      <text x={R * 0.72} y={-R * 0.76} className={`n ${WORDS}`}>
        {show(scale, 'factor', system)}
      </text>
      <circle cx={x} cy={-y} r={3.5} className={bad ? 'fill-red' : 'fill-brass'} />
      {upright && (
        <>
          <text x={R + 10} y={4} className={WORDS}>
            X
          </text>
          <text y={-R - 10} textAnchor="middle" className={WORDS}>
            Y
          </text>
        </>
      )}
    </svg>
  )
}
