import { type Block, xOf } from './scale'

// The time scale under the blocks.
export function Axis({ blocks, width }: { blocks: Block[]; width: number }) {
  const last = blocks[blocks.length - 1]
  if (!last) return null
  const end = last.start + last.change + last.seconds
  const step = end > 3600 ? 600 : end > 1500 ? 120 : end > 240 ? 60 : 15
  const ticks = Array.from({ length: Math.floor(end / (step / 5)) + 1 }, (_, k) => k * (step / 5))
  let labelled = -100
  return (
    <g>
      <line x1={0} x2={width} y1={113} y2={113} className="stroke-quiet" />
      {ticks.map((t, k) => {
        const x = xOf(t, blocks)
        const long = k % 5 === 0
        const label = long && x - labelled > 30
        if (label) labelled = x
        return (
          <g key={k}>
            <line x1={x} x2={x} y1={113} y2={long ? 107 : 110} className="stroke-quiet" />
            {label && (
              <text x={x + 3} y={125} className="n fill-ink-2 text-[11.5px]">
                {step < 60 ? `${t} s` : t / 60}
              </text>
            )}
          </g>
        )
      })}
      {step >= 60 && (
        <text x={-26} y={125} className="fill-ink-2 text-[11.5px]">
          min
        </text>
      )}
    </g>
  )
}
