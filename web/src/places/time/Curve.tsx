const WIDE = 340
const HIGH = 150
const LEFT = 52
const BELOW = 22
const ABOVE = 12
const APART = 24

type Row = { quantity: number; value: number }

// A value of one part over how many are made, both as they are read: quantities by their logarithm, marks at each; that of another plan beside it.
export function Curve({
  ordered,
  rows,
  beside = [],
  said,
  title,
}: {
  ordered: number
  rows: Row[]
  beside?: Row[]
  said: (value: number) => string
  title: string
}) {
  if (rows.length < 2) return null
  const [least, most] = [rows[0]!.quantity, rows[rows.length - 1]!.quantity]
  const top = Math.max(...[...rows, ...beside].map((row) => row.value))
  const x = (quantity: number) =>
    LEFT + (Math.log(quantity / least) / Math.log(most / least)) * (WIDE - LEFT - 18)
  const y = (value: number) => ABOVE + (1 - value / top) * (HIGH - ABOVE - BELOW)
  const lineOf = (of: Row[]) => of.map((row) => `${x(row.quantity)},${y(row.value)}`).join(' ')
  const now = rows.find((row) => row.quantity === ordered)
  const named = withRoom(
    rows.map((row) => row.quantity),
    ordered,
    x,
  )
  return (
    <figure>
      <figcaption className="text-small text-ink-2">{title}</figcaption>
      <svg
        width={WIDE}
        height={HIGH}
        role="img"
        aria-label={rows.map((row) => `${row.quantity}: ${said(row.value)}`).join(', ')}
        className="block"
      >
        <line x1={LEFT} x2={WIDE} y1={y(0)} y2={y(0)} className="stroke-hair-strong" />
        {rows.map((row) => (
          <g key={row.quantity}>
            <line
              x1={x(row.quantity)}
              x2={x(row.quantity)}
              y1={y(0)}
              y2={y(0) + 4}
              className="stroke-ink-3"
            />
            {named.has(row.quantity) && (
              <text
                x={x(row.quantity)}
                y={HIGH - 5}
                textAnchor="middle"
                className={`n text-[10.5px] ${row.quantity === ordered ? 'fill-ink font-semibold' : 'fill-ink-3'}`}
              >
                {row.quantity}
              </text>
            )}
          </g>
        ))}
        {[top, now?.value ?? top].map((value, k) => (
          <text
            key={k}
            x={LEFT - 6}
            y={y(value) + 4}
            textAnchor="end"
            className="n fill-ink-2 text-[10.5px]"
          >
            {k === 1 && Math.abs(y(value) - y(top)) < 12 ? '' : said(value)}
          </text>
        ))}
        {now && (
          <path
            d={`M${LEFT},${y(now.value)}H${x(ordered)}V${y(0)}`}
            className="fill-none stroke-hair-strong"
            strokeDasharray="3 2"
          />
        )}
        {beside.length > 0 && (
          <polyline
            points={lineOf(beside)}
            className="fill-none stroke-brass"
            strokeWidth={1.5}
            strokeDasharray="6 3"
          />
        )}
        <polyline points={lineOf(rows)} className="fill-none stroke-mark" strokeWidth={1.5} />
        {rows.map((row) => (
          <circle
            key={row.quantity}
            cx={x(row.quantity)}
            cy={y(row.value)}
            r={row.quantity === ordered ? 4 : 2.5}
            className={row.quantity === ordered ? 'fill-mark' : 'fill-paper stroke-mark'}
          />
        ))}
      </svg>
    </figure>
  )
}

// Which quantities can be read below the curve: the one that was ordered, and those that come free of it and of each other.
export function withRoom(
  quantities: number[],
  ordered: number,
  x: (n: number) => number,
): Set<number> {
  const named = [ordered]
  for (const each of quantities)
    if (named.every((other) => Math.abs(x(each) - x(other)) >= APART)) named.push(each)
  return new Set(named)
}
