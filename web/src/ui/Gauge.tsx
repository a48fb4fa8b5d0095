import type { Schemas } from '../api/client'
import { useUnits } from '../app/units'
import { show } from './format'

// A rule with the side that will not do hatched, the limit as a stroke and the value as a needle.
export function Gauge({ gauge }: { gauge: Schemas['GaugeOut'] }) {
  const { system } = useUnits()
  const { value, limit, kind } = gauge
  const wrong = kind === 'needs' ? value < limit - 1e-9 : value > limit + 1e-9
  const top = scaleTop(value, limit)
  const bottom = Math.min(0, value * 1.15, limit)
  const at = (x: number) => ((Math.min(x, top) - bottom) / (top - bottom)) * 100
  const edge = at(limit)
  const words = `${gauge.name} ${show(value, gauge.quantity, system)}, ${kind === 'needs' ? 'needs' : 'up to'} ${show(limit, gauge.quantity, system)}`
  return (
    <div role="img" aria-label={words} className="relative h-[15px] w-full">
      <div
        className={`absolute top-1 h-2 ${wrong ? 'hatch-red' : 'hatch'}`}
        style={kind === 'needs' ? { left: 0, width: `${edge}%` } : { left: `${edge}%`, right: 0 }}
      />
      <div className="absolute inset-x-0 top-3 h-px bg-quiet" />
      {Array.from({ length: 11 }, (_, k) => (
        <div
          key={k}
          className="absolute top-[9px] h-[3px] w-px bg-quiet"
          style={{ left: `${k * 10}%` }}
        />
      ))}
      <div className="absolute top-0 h-[14px] w-[1.5px] bg-ink" style={{ left: `${edge}%` }} />
      {wrong ? (
        <svg
          className="absolute -top-0.5 h-[15px] w-[9px] -translate-x-1/2"
          viewBox="0 0 9 15"
          style={{ left: `${at(value)}%` }}
        >
          <path d="M4.5 8v7" className="stroke-red" strokeWidth="1.5" />
          <rect x="0.5" y="0.5" width="8" height="8" className="fill-red" />
        </svg>
      ) : (
        <svg
          className="absolute top-0 h-[11px] w-[9px] -translate-x-1/2"
          viewBox="0 0 9 11"
          style={{ left: `${at(value)}%` }}
        >
          <path d="M0 0h9L4.5 9Z" className="fill-ink" />
        </svg>
      )}
    </div>
  )
}

function scaleTop(value: number, limit: number): number {
  const room = Math.max(Math.abs(limit) * 1.3, Math.min(value * 1.15, Math.abs(limit) * 3))
  return room > 0 ? room : Math.max(value * 1.15, 1)
}
