import { number } from '../../ui/format'
import { useUnits } from '../../app/units'

// The edge in section, to scale: what is cut away hatched, the angle at the face.
export function Profile({ size, angle }: { size: number; angle: number }) {
  const high = size * Math.tan((Math.min(Math.max(angle, 1), 89) * Math.PI) / 180)
  const scale = Math.min(84 / size, 62 / high)
  const [w, h] = [size * scale, high * scale]
  return (
    <svg
      width="190"
      height="110"
      viewBox="-130 -26 190 110"
      className="shrink-0"
      role="img"
      aria-label="section of the edge"
    >
      <path
        d={`M-126 0H${-w}L0 ${h}V82H-126Z`}
        className="fill-[#e4e8f0] stroke-ink"
        strokeWidth="1"
      />
      <path d={`M${-w} 0H0V${h}Z`} className="fill-[#e0a36b] opacity-50" />
      <path d={`M${-w} 0H0V${h}`} className="fill-none stroke-ink-3" strokeDasharray="4 3" />
      <path
        d={`M${-w} -4V-20M0 -4V-20M${-w} -14H0`}
        className="fill-none stroke-ink-2"
        strokeWidth="0.8"
      />
      <text x={-w / 2} y={-17} textAnchor="middle" className="n fill-ink text-[11px]">
        <Shown value={size} quantity="size" />
      </text>
      <text x={7} y={h / 2 + 4} className="n fill-ink text-[11px]">
        <Shown value={high} quantity="size" />
      </text>
    </svg>
  )
}

function Shown({ value, quantity }: { value: number; quantity: string }) {
  const { system } = useUnits()
  return <>{number(value, quantity, system)}</>
}
