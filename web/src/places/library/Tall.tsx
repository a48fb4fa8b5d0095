export type Data = Record<string, unknown>
export const WIDTH = 400
export const HEIGHT = 460

export function Tall({
  x,
  from,
  to,
  words,
  left = false,
}: {
  x: number
  from: number
  to: number
  words: string
  left?: boolean
}) {
  return (
    <g className="stroke-ink">
      <path d={`M${x} ${from}V${to}M${x - 4} ${from}h8M${x - 4} ${to}h8`} fill="none" />
      <text
        x={x + (left ? -6 : 6)}
        y={(from + to) / 2 + 4}
        textAnchor={left ? 'end' : 'start'}
        className="n stroke-none fill-ink text-[13px]"
      >
        {words}
      </text>
    </g>
  )
}
