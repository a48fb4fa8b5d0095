import { Three } from '../ui/Measures'
import { SIDE } from './scale'

// A small drawing of the blank or the part at its end of the rail.
export function Solid({
  x,
  size,
  words,
  sawn = false,
  round = null,
}: {
  x: number
  size: number[]
  words: string
  sawn?: boolean
  round?: number | null
}) {
  const [a = 1, b = 1, c = 1] = size
  const scale = 34 / Math.max(a, b, c)
  const [dx, dy, h] = [a * scale, b * scale, c * scale]
  const p = (u: number, v: number, w: number) =>
    `${x + 26 + (u - v) * 0.78} ${88 + (u + v) * 0.36 - w - 8}`
  const [u, v] = [dx / 1.3, dy / 1.3]
  return (
    <g>
      <text x={x} y={20} className="text-[13px] font-semibold">
        {words}
      </text>
      <foreignObject x={x} y={24} width={SIDE - 12} height={32}>
        <div className="text-tiny leading-[14px] text-ink-2">
          <Three size={size} round={round} />
        </div>
      </foreignObject>
      {round === 2 ? (
        <Drum x={x + 26} wide={dx * 0.78} high={h} sawn={sawn} />
      ) : (
        <>
          <path
            d={`M${p(0, 0, h)}L${p(u, 0, h)}L${p(u, v, h)}L${p(0, v, h)}Z`}
            className={sawn ? 'fill-[#dfe3ea] stroke-ink' : 'fill-[#eef2fd] stroke-ink'}
            strokeLinejoin="round"
          />
          <path
            d={`M${p(0, v, h)}L${p(u, v, h)}L${p(u, v, 0)}L${p(0, v, 0)}Z`}
            className={sawn ? 'fill-[#c3c9d6] stroke-ink' : 'fill-[#ced7f2] stroke-ink'}
            strokeLinejoin="round"
          />
          <path
            d={`M${p(u, 0, h)}L${p(u, v, h)}L${p(u, v, 0)}L${p(u, 0, 0)}Z`}
            className={sawn ? 'fill-[#aab2c3] stroke-ink' : 'fill-[#b2bee6] stroke-ink'}
            strokeLinejoin="round"
          />
        </>
      )}
    </g>
  )
}

// An upright round, as wide as it is.
function Drum({ x, wide, high, sawn }: { x: number; wide: number; high: number; sawn: boolean }) {
  const [r, e, foot] = [wide / 2, wide / 5, 90]
  return (
    <>
      <path
        d={`M${x - r} ${foot - high}V${foot}A${r} ${e} 0 0 0 ${x + r} ${foot}V${foot - high}Z`}
        className={sawn ? 'fill-[#c3c9d6] stroke-ink' : 'fill-[#ced7f2] stroke-ink'}
      />
      <ellipse
        cx={x}
        cy={foot - high}
        rx={r}
        ry={e}
        className={sawn ? 'fill-[#dfe3ea] stroke-ink' : 'fill-[#eef2fd] stroke-ink'}
      />
    </>
  )
}
