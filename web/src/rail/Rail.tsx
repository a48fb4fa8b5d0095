import { memo, useEffect, useRef, useState } from 'react'
import type { Evaluation, Finding, Plan } from '../api/client'
import { Three } from '../places/JobFrame'
import { clock } from '../ui/format'
import { roundWhenDone } from '../ui/rounds'
import { type Block, layOut, xOf } from './scale'

type Props = {
  evaluation: Evaluation
  plan: Plan
  setup: string
  operation: string | null
  quantity: number
  onPick: (setup: string, operation: string | null) => void
}
const BLOCK_TOP = 48
const BLOCK_HEIGHT = 32
const SIDE = 96

// The whole route to a time scale: blocks that share a tool touch, a tool change is a gap with a tick.
export const Rail = memo(function Rail({
  evaluation,
  plan,
  setup,
  operation,
  quantity,
  onPick,
}: Props) {
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(1000)
  useEffect(() => {
    if (!box.current) return
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width))
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [])
  const handling =
    evaluation.setups.length > 0 ? evaluation.handling_s / evaluation.setups.length : 0
  const inner = Math.max(200, width - 2 * SIDE)
  const blocks = layOut(evaluation, inner, setup, handling)
  const worst = (id: string) =>
    evaluation.findings.find((f) => f.operation === id && f.severity !== 'note' && !f.kept)
  return (
    <div className="grid h-[128px] grid-cols-[1fr_158px] border-b border-hair-strong bg-surface">
      <div ref={box} className="relative min-w-0 overflow-hidden">
        <svg width={width} height={127} role="group" aria-label="The route to a time scale">
          <Solid
            x={14}
            size={evaluation.stock_size}
            words="Blank"
            sawn
            round={evaluation.stock_round}
          />
          <g transform={`translate(${SIDE} 0)`}>
            <line
              x1={-16}
              x2={inner + 14}
              y1={BLOCK_TOP + BLOCK_HEIGHT / 2}
              y2={BLOCK_TOP + BLOCK_HEIGHT / 2}
              className="stroke-ink-3"
            />
            {evaluation.setups.map((each) => {
              const mine = blocks.filter((b) => b.setup === each.id && b.kind !== 'handling')
              const first = mine[0]
              const last = mine[mine.length - 1]
              if (!first || !last) return null
              const from = first.x - first.changeWidth
              const to = last.x + last.width
              const held = plan.setups?.find((s) => s.id === each.id)
              return (
                <g key={each.id} className="cursor-pointer" onClick={() => onPick(each.id, null)}>
                  <path d={`M${from} 38v-6H${to}v6`} className="fill-none stroke-ink-3" />
                  <foreignObject x={from} y={8} width={Math.max(60, to - from)} height={22}>
                    <div className="flex items-baseline gap-2 overflow-hidden whitespace-nowrap">
                      <b className={each.id === setup ? 'text-brass' : ''}>Setup {each.number}</b>
                      <span className="truncate">
                        {each.stations.map(({ up }) => up).join(', then ')}
                      </span>
                      <span className="n ml-auto text-small text-ink-2">
                        {held?.stations.map(({ work_offset }) => work_offset).join(' ')}
                      </span>
                      <span className="n font-semibold">{clock(each.cycle_s)}</span>
                    </div>
                  </foreignObject>
                </g>
              )
            })}
            {blocks.map((b, place) => (
              <Piece
                key={b.kind + b.id}
                block={b}
                before={blocks[place - 1]}
                evaluation={evaluation}
                chosen={b.id === operation}
                finding={worst(b.id)}
                handling={handling}
                onPick={onPick}
              />
            ))}
            <Axis blocks={blocks} width={inner} />
          </g>
          <Solid
            x={width - SIDE + 20}
            size={evaluation.part_size}
            words="Finished"
            round={roundWhenDone(
              evaluation.stock_round,
              evaluation.stock_size,
              evaluation.part_size,
            )}
          />
        </svg>
      </div>
      <div className="my-2 border-l border-hair-strong px-3 text-small text-ink-2">
        <Total words="One part" seconds={evaluation.one_part_s} big />
        <Total words="in cut" seconds={evaluation.cutting_s} />
        <Total words="tool changes" seconds={evaluation.changes_s} />
        <Total words="by hand" seconds={evaluation.handling_s} />
        <div className="mt-1 border-t border-hair pt-1">
          <Total words={`${quantity} off`} seconds={evaluation.batch_s} />
        </div>
      </div>
    </div>
  )
})

function Total({ words, seconds, big = false }: { words: string; seconds: number; big?: boolean }) {
  return (
    <p className={`flex items-baseline justify-between ${big ? 'text-body text-ink' : ''}`}>
      {words}{' '}
      <span className={`n ${big ? 'text-[20px] font-semibold leading-6' : 'text-ink'}`}>
        {clock(seconds)}
      </span>
    </p>
  )
}

function Piece({
  block: b,
  before,
  evaluation,
  chosen,
  finding,
  handling,
  onPick,
}: {
  block: Block
  before: Block | undefined
  evaluation: Evaluation
  chosen: boolean
  finding: Finding | undefined
  handling: number
  onPick: Props['onPick']
}) {
  const setup = evaluation.setups.find((each) => each.id === b.setup)
  if (!setup) return null
  if (b.kind !== 'operation') {
    const words =
      b.kind === 'folded'
        ? `${setup.operations.length} operations`
        : `Turn over, ${clock(handling)}`
    return (
      <g className="cursor-pointer" onClick={() => onPick(b.setup, null)}>
        <title>
          {b.kind === 'folded'
            ? `Setup ${setup.number}: ${words}`
            : `${setup.stations[0]?.handling}, ${clock(handling)}`}
        </title>
        <rect
          x={b.x + 3}
          y={BLOCK_TOP + 3}
          width={b.width - 6}
          height={BLOCK_HEIGHT - 6}
          className={
            b.kind === 'folded' ? 'fill-mark-wash stroke-ink-2' : 'fill-paper stroke-quiet'
          }
          strokeDasharray={b.kind === 'folded' ? '' : '3 2'}
        />
        <text
          x={b.x + b.width / 2}
          y={BLOCK_TOP + 20}
          textAnchor="middle"
          className="n fill-ink-2 text-[11.5px]"
        >
          {b.kind === 'folded' ? words : `⟲ ${clock(handling)}`}
        </text>
      </g>
    )
  }
  const op = setup.operations.find((each) => each.id === b.id)
  if (!op) return null
  const room = b.width > 74
  const fresh = b.change > 0 || !before || before.kind !== 'operation'
  return (
    <>
      <g
        role="button"
        tabIndex={-1}
        aria-label={`Operation ${op.number} ${op.title}, ${clock(op.time_s)}${finding ? `, ${finding.severity === 'stop' ? 'will not work' : 'look'}` : ''}`}
        className="cursor-pointer"
        onClick={() => onPick(b.setup, b.id)}
      >
        <title>{`${op.number} ${op.title}: ${clock(op.time_s)}`}</title>
        {fresh && (
          <path d={`M${b.x} ${BLOCK_TOP - 4}v${BLOCK_HEIGHT + 12}`} className="stroke-ink-3" />
        )}
        <rect
          x={b.x}
          y={BLOCK_TOP}
          width={b.width}
          height={BLOCK_HEIGHT}
          className={chosen ? 'fill-brass-wash stroke-brass' : 'fill-paper stroke-ink-2'}
          strokeWidth={chosen ? 2 : 1}
        />
        {finding?.severity === 'stop' && (
          <rect
            x={b.x + b.width / 2 - 5}
            y={BLOCK_TOP - 13}
            width={10}
            height={10}
            className="fill-red stroke-red-edge"
          />
        )}
        {finding?.severity === 'look' && (
          <path
            d={`M${b.x + b.width / 2} ${BLOCK_TOP - 14}l6 10.5h-12z`}
            className="fill-amber stroke-amber-edge"
          />
        )}
        {chosen && <rect x={b.x} y={112} width={b.width} height={2.5} className="fill-brass" />}
      </g>
      <g aria-hidden className="pointer-events-none">
        {fresh && op.tool_number !== null && b.width > 20 && (
          <text
            x={b.x + 2}
            y={BLOCK_TOP + BLOCK_HEIGHT + 15}
            className="n fill-ink-2 text-[11.5px]"
          >
            T{op.tool_number}
          </text>
        )}
        <text
          x={b.x + (room ? 7 : b.width / 2)}
          y={BLOCK_TOP + 20.5}
          textAnchor={room ? 'start' : 'middle'}
          className="n fill-ink text-[12.5px]"
        >
          {op.number}
        </text>
        {room && (
          <foreignObject
            x={b.x + 12 + 8 * String(op.number).length}
            y={BLOCK_TOP + 6}
            width={b.width - 16 - 8 * String(op.number).length}
            height={22}
          >
            <div className="truncate text-small">{op.title}</div>
          </foreignObject>
        )}
      </g>
    </>
  )
}

function Axis({ blocks, width }: { blocks: Block[]; width: number }) {
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

function Solid({
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
