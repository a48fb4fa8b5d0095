import { useState } from 'react'
import { Link } from 'react-router'
import type { Evaluation } from '../../api/client'
import { Sizes } from '../../ui/Figure'
import { WhyOf } from '../../ui/WhyOf'
import { Off } from './Off'
import { type Kind, KINDS, longest, type Row, seconds, totalsOf } from './goes'

const WIDE = 320
const HIGH = 12

// Of one part, operation by operation: the longest first or as they come, each as a bar of what it is made of.
export function Goes({ rows, evaluation }: { rows: Row[]; evaluation: Evaluation }) {
  const [sorted, setSorted] = useState(true)
  const shown = sorted ? longest(rows) : rows
  const most = Math.max(...rows.map((row) => row.seconds))
  const whole = rows.reduce((sum, row) => sum + row.seconds, 0)
  return (
    <>
      <div className="mb-2 flex items-baseline gap-4">
        <h1 className="text-[20px] font-semibold">
          One part{' '}
          <span className="n">
            <WhyOf figure="plan.one_part" evaluation={evaluation} words="One part">
              {seconds(evaluation.one_part_s)}
            </WhyOf>
          </span>
          <Off of="one_part" evaluation={evaluation} said={seconds} />
        </h1>
        <label className="ml-auto inline-flex items-center gap-1.5 text-ink-2">
          <input
            type="checkbox"
            checked={sorted}
            onChange={(event) => setSorted(event.target.checked)}
          />
          longest first
        </label>
      </div>
      <Key rows={rows} whole={whole} />
      <table className="w-full border-t border-ink">
        <thead className="sr-only">
          <tr>
            <th>Operation</th>
            <th>What it is</th>
            <th>What it is made of</th>
            <th>A part</th>
            <th>Share</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr
              key={row.key}
              className="[&>td]:border-b [&>td]:border-hair [&>td]:py-1 [&>td]:pr-3"
            >
              <td className="n w-12">
                {row.operation ? (
                  <Link className="link" to={`../setups?op=${row.operation}`}>
                    {row.label}
                  </Link>
                ) : (
                  row.label
                )}
              </td>
              <td className="max-w-0 truncate" title={row.title}>
                {row.title} {row.detail && <Sizes of={row.detail} />}
              </td>
              <td style={{ width: WIDE + 12 }}>
                <Bar row={row} most={most} />
              </td>
              <td className="n w-16 text-right">{seconds(row.seconds)}</td>
              <td className="n w-14 text-right text-ink-2">{share(row.seconds, whole)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function Bar({ row, most }: { row: Row; most: number }) {
  let at = 0
  const said = KINDS.filter(({ kind }) => row.by[kind] > 0)
  return (
    <svg
      width={WIDE}
      height={HIGH}
      role="img"
      aria-label={said.map(({ kind, label }) => `${label} ${seconds(row.by[kind])}`).join(', ')}
      className="block"
    >
      {said.map(({ kind, fill }) => {
        const wide = (row.by[kind] / most) * (WIDE - 2)
        const x = at + 1
        at += wide
        return <Piece key={kind} kind={kind} x={x} wide={wide} fill={fill} />
      })}
    </svg>
  )
}

// What somebody does by hand is open and dashed, as on the rail.
function Piece({ kind, x, wide, fill }: { kind: Kind; x: number; wide: number; fill: string }) {
  const hand = kind === 'hand'
  return (
    <rect
      x={x}
      y={hand ? 1.5 : 1}
      width={Math.max(wide, 0.5)}
      height={hand ? HIGH - 3 : HIGH - 2}
      className={hand ? 'fill-paper stroke-ink-2' : fill}
      strokeDasharray={hand ? '3 2' : undefined}
    />
  )
}

function Key({ rows, whole }: { rows: Row[]; whole: number }) {
  const totals = totalsOf(rows)
  return (
    <dl className="mb-3 flex flex-wrap gap-x-6 gap-y-1.5">
      {KINDS.filter(({ kind }) => totals[kind] > 0).map(({ kind, label, fill }) => (
        <div key={kind}>
          <dt className="flex items-center gap-1.5 text-small text-ink-2">
            <svg width={14} height={HIGH} aria-hidden>
              <Piece kind={kind} x={1} wide={12} fill={fill} />
            </svg>
            {label}
          </dt>
          <dd className="n">
            {seconds(totals[kind])}{' '}
            <span className="text-small text-ink-2">{share(totals[kind], whole)}</span>
          </dd>
        </div>
      ))}
    </dl>
  )
}

const share = (part: number, whole: number) => `${((100 * part) / whole).toFixed(0)} %`
