import { Figure, Sentence } from '../../ui/Figure'
import { type Chain, steps } from './steps'

const WIDE = 300 // of the drawing, px
const HIGH = 20 // of a step
const FROM: Record<string, string> = {
  shop: 'the shop’s settings',
  machine: 'the machine’s record',
  blank: 'as it is ordered',
}

// A chain as stairs: each link begins where the one before it ends, the largest first, against
// what the drawing allows and as far as it mostly goes.
export function Staircase({ chain }: { chain: Chain }) {
  const { stairs, scale } = steps(chain, WIDE)
  const high = stairs.length * HIGH
  return (
    <div className="mt-1.5 grid grid-cols-[1fr_64px_300px] gap-x-3 text-small" data-stairs>
      <ul>
        {chain.links.map((link, k) => (
          <li key={k} className="truncate" style={{ height: HIGH, lineHeight: `${HIGH}px` }}>
            <Sentence {...link} />{' '}
            <span className="text-ink-3">{FROM[link.source.split(/[.:]/)[0]!]}</span>
          </li>
        ))}
      </ul>
      <ul className="text-right">
        {chain.links.map((link, k) => (
          <li key={k} style={{ height: HIGH, lineHeight: `${HIGH}px` }}>
            <Figure value={link.mm} quantity="size" bare />
          </li>
        ))}
      </ul>
      <svg
        width={WIDE}
        height={high + 18}
        role="img"
        aria-label="how it adds up"
        className="overflow-visible"
      >
        {stairs.map((step, k) => (
          <g key={k}>
            <line
              x1={0}
              x2={WIDE}
              y1={(k + 1) * HIGH}
              y2={(k + 1) * HIGH}
              className="stroke-hair"
            />
            <rect
              x={step.from}
              y={k * HIGH + 5}
              width={Math.max(step.wide, 1)}
              height={HIGH - 10}
              className="fill-scribe stroke-ink"
              strokeWidth={0.75}
            />
            {k + 1 < stairs.length && (
              <line
                x1={step.from + step.wide}
                x2={step.from + step.wide}
                y1={(k + 1) * HIGH - 5}
                y2={(k + 1) * HIGH + 5}
                className="stroke-ink-3"
                strokeWidth={0.75}
              />
            )}
          </g>
        ))}
        <Mark at={chain.mostly_mm * scale} high={high} words="mostly" dashed />
        <Mark at={chain.allowed_mm * scale} high={high} words="allowed" />
      </svg>
    </div>
  )
}

function Mark({
  at,
  high,
  words,
  dashed = false,
}: {
  at: number
  high: number
  words: string
  dashed?: boolean
}) {
  return (
    <g>
      <line
        x1={at}
        x2={at}
        y1={0}
        y2={high + 4}
        className={dashed ? 'stroke-ink-2' : 'stroke-brass'}
        strokeWidth={dashed ? 1 : 1.5}
        strokeDasharray={dashed ? '3 2' : undefined}
      />
      <text
        x={at}
        y={high + 15}
        textAnchor={at > WIDE - 30 ? 'end' : at < 30 ? 'start' : 'middle'}
        className={`text-small ${dashed ? 'fill-ink-2' : 'fill-brass'}`}
      >
        {words}
      </text>
    </g>
  )
}
