import type { Evaluation, Finding } from '../api/client'
import { clock } from '../ui/format'
import { FlipPicture } from './Flip'
import { laneOf } from './lanes'
import type { Block } from './scale'
import { type Share, sharesOf } from './spent'

export const BLOCK_TOP = 48
export const BLOCK_HEIGHT = 32
export type OnPick = (setup: string, operation: string | null) => void

// One block of the rail: an operation, a folded setup, what is done by hand.
export function Piece({
  block: b,
  before,
  evaluation,
  chosen,
  finding,
  onPick,
}: {
  block: Block
  before: Block | undefined
  evaluation: Evaluation
  chosen: boolean
  finding: Finding | undefined
  onPick: OnPick
}) {
  const setup = evaluation.setups.find((each) => each.id === b.setup)
  if (!setup) return null
  if (b.kind === 'attended') return <Attended block={b} onPick={onPick} />
  if (b.kind !== 'operation') {
    const flip = setup.stations[0]?.flip
    const handling = b.seconds
    const words =
      b.kind === 'folded'
        ? setup.operations.length === 1
          ? 'one operation'
          : `${setup.operations.length} operations`
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
        {b.kind !== 'folded' && flip && b.width > 96 && (
          <svg x={b.x + b.width / 2 - 46} y={BLOCK_TOP - 1} width={92} height={30}>
            <FlipPicture flip={flip} high={28} />
          </svg>
        )}
        <text
          x={b.x + b.width / 2}
          y={BLOCK_TOP + (b.kind !== 'folded' && flip && b.width > 96 ? 44 : 20)}
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
  const lane = laneOf(setup, op.station, BLOCK_TOP, BLOCK_HEIGHT)
  const room = b.width > 74 && lane.high > 11
  const shares = sharesOf(setup, op.id)
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
        <title>{`${op.number} ${op.title}: ${clock(op.time_s)}${wordsOf(shares, b.seconds)}`}</title>
        {fresh && (
          <path d={`M${b.x} ${BLOCK_TOP - 4}v${BLOCK_HEIGHT + 12}`} className="stroke-ink-3" />
        )}
        <rect
          x={b.x}
          y={lane.y}
          width={b.width}
          height={lane.high}
          className={chosen ? 'fill-brass-wash stroke-brass' : 'fill-paper stroke-ink-2'}
          strokeWidth={chosen ? 2 : 1}
        />
        <Spent shares={shares} block={b} lane={lane} />
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
          y={lane.y + lane.high / 2 + (lane.shared ? 2.5 : 3.5)}
          textAnchor={room ? 'start' : 'middle'}
          className={`n fill-ink ${lane.shared ? 'text-[11px]' : 'text-[12.5px]'}`}
        >
          {op.number}
        </text>
        {room && (
          <foreignObject
            x={b.x + 12 + 8 * String(op.number).length}
            y={lane.y + lane.high / 2 - (lane.shared ? 10 : 11)}
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

const SPENT = { cut: 'fill-mark', link: 'fill-scribe-dim', move: 'fill-hair-strong' }
const WORDS = { cut: 'fed through the work', link: 'fed past it', move: 'moves and waits' }

const wordsOf = (shares: Share[], seconds: number) =>
  shares
    .map(({ kind, from, to }) => `, ${((to - from) * seconds).toFixed(1)} s ${WORDS[kind]}`)
    .join('')

// Along the foot of a block: what its seconds go to, in the shades of the time place.
function Spent({
  shares,
  block: b,
  lane,
}: {
  shares: Share[]
  block: Block
  lane: ReturnType<typeof laneOf>
}) {
  const inside = b.width - 2
  const high = lane.shared ? 2 : 3
  return shares.map(({ kind, from, to }) => (
    <rect
      key={kind}
      x={b.x + 1 + from * inside}
      y={lane.y + lane.high - high - 0.5}
      width={Math.max((to - from) * inside, 0)}
      height={high}
      className={SPENT[kind]}
    />
  ))
}

// What somebody does while the machine waits: a stop, a range changed by hand.
function Attended({ block: b, onPick }: { block: Block; onPick: OnPick }) {
  const [kind, operation] = b.id.split(' ')
  return (
    <g className="cursor-pointer" onClick={() => onPick(b.setup, operation ?? null)}>
      <title>
        {`${kind === 'stop' ? 'Programmed stop' : 'Range changed by hand'}, ${clock(b.seconds)}`}
      </title>
      <rect
        x={b.x + 3}
        y={BLOCK_TOP + 7}
        width={b.width - 6}
        height={BLOCK_HEIGHT - 14}
        className="fill-paper stroke-quiet"
        strokeDasharray="3 2"
      />
      <text
        x={b.x + b.width / 2}
        y={BLOCK_TOP + 20}
        textAnchor="middle"
        className="n fill-ink-2 text-[11px]"
      >
        {clock(b.seconds)}
      </text>
    </g>
  )
}
