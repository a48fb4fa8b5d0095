import type { Evaluation } from '../../api/client'
import { Sizes } from '../../ui/Figure'
import { seconds } from '../time/goes'
import { drawnAs, lanes, type Reason, roomOf } from './reasons'

const ROW = 34
const LANE = 9
const EDGE = 14
const ACROSS = 110

type Operation = Evaluation['setups'][number]['operations'][number]

// The operations as they come, what ties them to each other on the left, and the shorter order on the right.
export function Field({
  operations,
  reasons,
  better,
  pinned,
  looked,
  onLook,
}: {
  operations: Operation[]
  reasons: Reason[]
  better: string[] | null
  pinned: Set<string>
  looked: string
  onLook: (id: string) => void
}) {
  const order = operations.map((op) => op.id)
  const drawn = reasons.filter((each) => each.direct)
  const lane = lanes(drawn, order)
  const wide = EDGE + LANE * (Math.max(0, ...lane.values()) + 2)
  const high = ROW * operations.length
  const step = (event: React.KeyboardEvent) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (!by) return
    event.preventDefault()
    const next = order[(order.indexOf(looked) + by + order.length) % order.length] ?? looked
    onLook(next)
    event.currentTarget.querySelector<HTMLElement>(`[data-op="${next}"]`)?.focus()
  }
  return (
    <div className="flex" onKeyDown={step}>
      <Ties
        {...{ drawn, lane, order, wide, high, looked }}
        label={`${drawn.length} reasons between ${operations.length} operations`}
      />
      <ol className="w-[430px] shrink-0" aria-label="Operations as they come">
        {operations.map((op) => (
          <Row
            key={op.id}
            op={op}
            pinned={pinned.has(op.id)}
            looked={looked === op.id}
            onLook={() => onLook(op.id)}
          />
        ))}
      </ol>
      {looked && <Room reasons={reasons} order={order} id={looked} high={high} />}
      {better && <Shorter {...{ operations, better, high, looked, onLook }} />}
    </div>
  )
}

function Ties({
  drawn,
  lane,
  order,
  wide,
  high,
  looked,
  label,
}: {
  drawn: Reason[]
  lane: Map<Reason, number>
  order: string[]
  wide: number
  high: number
  looked: string
  label: string
}) {
  const y = (id: string) => ROW * (order.indexOf(id) + 0.5)
  const of = (each: Reason) => looked === each.first || looked === each.then
  return (
    <svg width={wide} height={high} role="img" aria-label={label} className="shrink-0">
      {[...drawn]
        .sort((a, b) => Number(of(a)) - Number(of(b)))
        .map((each) => {
          const x = wide - EDGE - LANE * ((lane.get(each) ?? 0) + 1)
          const [from, to] = [y(each.first) + 4, y(each.then) - 4]
          const bend = Math.min(6, Math.abs(to - from) / 2) * Math.sign(to - from)
          const { stroke, dash } = drawnAs(each)
          return (
            <path
              key={`${each.first} ${each.then}`}
              d={`M${wide - 4} ${from} H${x + 6} Q${x} ${from} ${x} ${from + bend} V${to - bend} Q${x} ${to} ${x + 6} ${to} H${wide - 4} m-4 -3 l4 3 l-4 3`}
              className={`fill-none ${looked && !of(each) ? 'stroke-hair-strong' : stroke}`}
              strokeWidth={of(each) ? 2 : 1.25}
              strokeDasharray={dash}
            />
          )
        })}
    </svg>
  )
}

function Row({
  op,
  pinned,
  looked,
  onLook,
}: {
  op: Operation
  pinned: boolean
  looked: boolean
  onLook: () => void
}) {
  return (
    <li style={{ height: ROW }} className="border-b border-hair">
      <button
        data-op={op.id}
        aria-pressed={looked}
        onClick={onLook}
        className={`grid h-full w-full grid-cols-[38px_34px_1fr_auto_54px] items-center gap-x-2 border-l-[3px] px-2 text-left ${looked ? 'border-mark bg-mark-wash' : 'border-transparent hover:bg-paper'}`}
      >
        <b className="n">{op.number}</b>
        <span className="n text-small text-ink-2">
          {op.tool_number ? `T${op.tool_number}` : ''}
        </span>
        <span className="truncate">
          {op.title}{' '}
          <span className="text-small text-ink-2">
            <Sizes of={op} />
          </span>
        </span>
        <span className="text-small text-brass">{pinned ? 'keeps its place' : ''}</span>
        <span className="n text-right text-small text-ink-2">{seconds(op.time_s)}</span>
      </button>
    </li>
  )
}

// How far the operation that is looked at could go while the others stay.
function Room({
  reasons,
  order,
  id,
  high,
}: {
  reasons: Reason[]
  order: string[]
  id: string
  high: number
}) {
  const [low, top] = roomOf(reasons, order, id)
  return (
    <svg width={12} height={high} role="img" aria-label={`It can stand at ${top - low + 1} places`}>
      <path
        d={`M2 ${ROW * low + 5} H7 V${ROW * (top + 1) - 5} H2`}
        className="fill-none stroke-brass"
        strokeWidth={2}
      />
    </svg>
  )
}

function Shorter({
  operations,
  better,
  high,
  looked,
  onLook,
}: {
  operations: Operation[]
  better: string[]
  high: number
  looked: string
  onLook: (id: string) => void
}) {
  return (
    <>
      <svg width={ACROSS} height={high} aria-hidden className="shrink-0">
        {operations.map((op, from) => {
          const to = better.indexOf(op.id)
          const [a, b] = [ROW * (from + 0.5), ROW * (to + 0.5)]
          return (
            <path
              key={op.id}
              d={`M4 ${a} C${ACROSS / 2} ${a} ${ACROSS / 2} ${b} ${ACROSS - 4} ${b}`}
              className={`fill-none ${looked === op.id ? 'stroke-mark' : from === to ? 'stroke-hair-strong' : 'stroke-ink-3'}`}
              strokeWidth={looked === op.id ? 2 : 1.25}
            />
          )
        })}
      </svg>
      <ol className="min-w-0 flex-1" aria-label="The shorter order">
        {better.map((id) => {
          const op = operations.find((each) => each.id === id)
          return (
            <li key={id} style={{ height: ROW }} className="border-b border-hair">
              <button
                tabIndex={-1}
                onClick={() => onLook(id)}
                className={`flex h-full w-full items-center gap-2 px-2 text-left ${looked === id ? 'bg-mark-wash' : 'hover:bg-paper'}`}
              >
                <b className="n w-8 shrink-0">{op?.number}</b>
                <span className="n w-8 shrink-0 text-small text-ink-2">
                  {op?.tool_number ? `T${op.tool_number}` : ''}
                </span>
                <span className="truncate">
                  {op?.title}{' '}
                  {op && (
                    <span className="text-small text-ink-2">
                      <Sizes of={op} />
                    </span>
                  )}
                </span>
              </button>
            </li>
          )
        })}
      </ol>
    </>
  )
}
