import { memo, useEffect, useRef, useState } from 'react'
import type { Evaluation, Plan } from '../api/client'
import { clock } from '../ui/format'
import { roundWhenDone } from '../ui/rounds'
import { WhyOf } from '../ui/WhyOf'
import { BLOCK_HEIGHT, BLOCK_TOP, type OnPick, Piece } from './Piece'
import { layOut, SIDE } from './scale'
import { putIn } from './spent'
import { Axis } from './Axis'
import { Solid } from './Solid'

type Props = {
  evaluation: Evaluation
  plan: Plan
  setup: string
  operation: string | null
  quantity: number
  onPick: OnPick
}

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
  const inner = Math.max(200, width - 2 * SIDE)
  const blocks = layOut(evaluation, inner, setup, (each) => putIn(evaluation, each))
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
                        {each.stations
                          .map(({ up, positions }) => (positions > 1 ? `${up} × ${positions}` : up))
                          .join(', then ')}
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
        <Total
          words="One part"
          seconds={evaluation.one_part_s}
          figure="plan.one_part"
          evaluation={evaluation}
          big
        />
        <Total words="in cut" seconds={evaluation.cutting_s} />
        <Total words="tool changes" seconds={evaluation.changes_s} />
        <Total words="by hand" seconds={evaluation.by_hand_s} />
        <div className="mt-1 border-t border-hair pt-1">
          <Total
            words={`${quantity} off`}
            seconds={evaluation.batch_s}
            figure="plan.batch"
            evaluation={evaluation}
          />
        </div>
      </div>
    </div>
  )
})

type TotalProps = {
  words: string
  seconds: number
  big?: boolean
  figure?: string
  evaluation?: Evaluation
}

function Total({ words, seconds, big = false, figure, evaluation }: TotalProps) {
  const time = (
    <span className={`n ${big ? 'text-[20px] font-semibold leading-6' : 'text-ink'}`}>
      {clock(seconds)}
    </span>
  )
  return (
    <p className={`flex items-baseline justify-between ${big ? 'text-body text-ink' : ''}`}>
      {words}{' '}
      {figure && evaluation ? (
        <WhyOf figure={figure} evaluation={evaluation} words={words}>
          {time}
        </WhyOf>
      ) : (
        time
      )}
    </p>
  )
}
