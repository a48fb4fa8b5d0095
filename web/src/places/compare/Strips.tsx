import type { Evaluation } from '../../api/client'
import { KINDS, rowsOf, seconds } from '../time/goes'

const HIGH = 26
const WIDE = 1000 // to be stretched over what room there is

// One part of each plan from its first cut to its last, to the same scale, operation by operation.
export function Strips({ of, names }: { of: Evaluation[]; names: string[] }) {
  const most = Math.max(...of.map((each) => each.one_part_s), 1)
  return (
    <div className="grid grid-cols-[130px_minmax(0,1fr)_64px] items-center gap-x-3 gap-y-1.5">
      {of.map((each, side) => (
        <Strip
          key={side}
          evaluation={each}
          name={names[side] ?? ''}
          tone={side === 0 ? 'text-mark' : 'text-brass'}
          most={most}
        />
      ))}
      <span />
      <ul className="flex flex-wrap gap-x-4 text-small text-ink-2">
        {KINDS.map(({ kind, label, fill }) => (
          <li key={kind} className="flex items-center gap-1">
            <svg width={12} height={10} aria-hidden>
              <rect
                width={11}
                height={9}
                x={0.5}
                y={0.5}
                className={`${fill} ${kind === 'hand' ? 'stroke-ink-2' : ''}`}
              />
            </svg>
            {label}
          </li>
        ))}
      </ul>
    </div>
  )
}

function Strip({
  evaluation,
  name,
  tone,
  most,
}: {
  evaluation: Evaluation
  name: string
  tone: string
  most: number
}) {
  let at = 0
  const rows = rowsOf(evaluation)
  return (
    <>
      <b className={`truncate ${tone}`} title={name}>
        {name}
      </b>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        height={HIGH}
        width="100%"
        role="img"
        aria-label={`${name}: ${rows.map((row) => `${row.label || row.title} ${seconds(row.seconds)}`).join(', ')}`}
      >
        {rows.map((row) => {
          const from = at
          at += (row.seconds / most) * WIDE
          let x = from
          return (
            <g key={row.key}>
              <title>
                {row.label} {row.title}, {seconds(row.seconds)}
              </title>
              {KINDS.map(({ kind, fill }) => {
                const wide = (row.by[kind] / most) * WIDE
                const piece = (
                  <rect
                    key={kind}
                    x={x}
                    y={3}
                    width={wide}
                    height={HIGH - 6}
                    className={`${fill} ${kind === 'hand' ? 'stroke-ink-2' : ''}`}
                    vectorEffect="non-scaling-stroke"
                  />
                )
                x += wide
                return wide > 0 ? piece : null
              })}
              <line
                x1={at}
                x2={at}
                y1={0}
                y2={HIGH}
                className="stroke-ink"
                vectorEffect="non-scaling-stroke"
              />
            </g>
          )
        })}
      </svg>
      <span className="n text-right">{seconds(evaluation.one_part_s)}</span>
    </>
  )
}
