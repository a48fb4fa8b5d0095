import { useSortable } from '@dnd-kit/sortable'
import { memo, useEffect, useRef } from 'react'
import type { Finding, OperationResult } from '../../api/client'
import { Figure, Sentence, Sizes } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { Mark, QUESTION_NAME, QUESTIONS, type Question } from '../../ui/Mark'
import { Worksheet } from './Worksheet'
import type { useSelection } from './selection'

export const COLUMNS =
  'grid grid-cols-[34px_minmax(0,1fr)_112px_44px_40px_80px_38px_36px_repeat(5,31px)] items-center gap-x-1.5'

const LONG = 12 // letters of a side, from where its angle alone is told

type RowProps = {
  op: OperationResult
  setup: string
  chosen: boolean
  question: Question | null
  findings: Finding[]
  station: number // of several, counted from 1; 0 where there is one
  under: boolean // a heading that tells station and side
  pick: ReturnType<typeof useSelection>['pick']
}

// An answer keeps what did not change (the cache shares equal parts), so a row is drawn anew only when it differs.
const drawnAlike = (a: RowProps, b: RowProps) =>
  a.op === b.op &&
  a.setup === b.setup &&
  a.chosen === b.chosen &&
  a.question === b.question &&
  a.pick === b.pick &&
  a.station === b.station &&
  a.under === b.under &&
  a.findings.length === b.findings.length &&
  a.findings.every((f, k) => f === b.findings[k])

export const Row = memo(function Row({
  op,
  setup,
  chosen,
  question,
  findings,
  station,
  under,
  pick,
}: RowProps) {
  const onPick = () => pick(setup, chosen ? null : op.id)
  const { setNodeRef, transform, transition, attributes, listeners, isDragging } = useSortable({
    id: op.id,
  })
  const box = useRef<HTMLDivElement | null>(null)
  useEffect(() => {
    if (chosen) box.current?.scrollIntoView({ block: 'nearest' })
  }, [chosen])
  const state = (each: Question) => op.answers[each]?.state ?? 'unknown'
  const waits = QUESTIONS.some((each) => state(each) === 'working')
  const dimmed = question !== null && state(question) === 'fine'
  const shift = transform ? `translate3d(0, ${transform.y}px, 0)` : undefined
  const loud = findings.filter(
    (f) => f.severity !== 'note' && !f.kept && (!question || f.question === question),
  )
  return (
    <div
      ref={(node) => {
        setNodeRef(node)
        box.current = node
      }}
      style={{ transform: shift, transition }}
      className={`${chosen ? 'relative z-10 border-y border-l-[3px] border-brass' : 'border-b border-hair'} ${isDragging ? 'z-20 bg-mark-wash' : 'bg-paper'} ${dimmed ? 'opacity-45' : ''}`}
    >
      <div
        className={`${COLUMNS} min-h-[26px] cursor-pointer px-3 ${waits ? 'text-ink-3' : ''} ${chosen ? 'pl-[9px]' : 'hover:bg-mark-wash'}`}
        onClick={onPick}
      >
        <span
          className="n text-ink-2 touch-none cursor-grab"
          {...attributes}
          {...listeners}
          role="img"
          tabIndex={-1}
          aria-label={`drag operation ${op.number}`}
        >
          {op.number}
        </span>
        <button
          className="flex min-w-0 items-baseline text-left font-semibold"
          aria-expanded={chosen}
          onClick={(event) => (event.stopPropagation(), onPick())}
        >
          <span className="truncate">
            {op.title} <Sizes of={op} />
          </span>
          {op.turned?.side && !under && (
            <span
              className="ml-2 shrink-0 text-small font-normal text-ink-2"
              title={`its ${op.turned.side} is turned to the tool, ${op.turned.index}${op.turned.askew ? ': the head is tilted' : ''}`}
            >
              {/* long words and two angles leave the title no room */}
              <span className={op.turned.side.length > LONG ? 'sr-only' : ''}>
                {op.turned.side}
              </span>{' '}
              <span className={`n ${op.turned.index.includes(' ') ? 'max-[1500px]:sr-only' : ''}`}>
                {op.turned.index}
              </span>
            </span>
          )}
          {station > 0 && !under && (
            <span
              className="ml-2 shrink-0 text-small font-normal text-ink-2"
              title={`at station ${station}`}
            >
              at <span className="n">{station}</span>
            </span>
          )}
        </button>
        <span className="truncate">
          {op.tool_number !== null ? (
            <>
              <b className="n">T{op.tool_number}</b>{' '}
              <span className="text-small">{op.tool_name}</span>
            </>
          ) : (
            <span className="text-ink-3">no tool</span>
          )}
        </span>
        <span
          className="text-right"
          title={
            op.cutting_speed_m_min === null
              ? undefined
              : 'at its largest diameter; the speed at the edge is kept'
          }
        >
          <Figure value={op.rpm} quantity="spindle_speed" bare />
        </span>
        <span
          className="text-right"
          title={op.feed_per_rev_mm === null ? undefined : 'a minute, at its largest diameter'}
        >
          <Figure value={op.feed_mm_min} quantity="feed" bare />
        </span>
        <span className="truncate text-small">
          <DeepWide op={op} />
        </span>
        <span className="text-right">
          {op.leaves_mm === null ? (
            <span className="text-ink-3">–</span>
          ) : (
            <Figure value={op.leaves_mm} quantity="size" trim bare />
          )}
        </span>
        <span className="n text-right">{clock(op.time_s)}</span>
        {QUESTIONS.map((each) => (
          <span key={each} className="text-center" title={op.answers[each]?.reason}>
            <Mark
              state={state(each)}
              size={state(each) === 'fine' ? 11 : 13}
              label={`${QUESTION_NAME[each]}: ${state(each)}`}
            />
          </span>
        ))}
      </div>
      {!chosen &&
        loud.map((f) => (
          <p
            key={f.key}
            className={`flex items-center gap-2 py-0.5 pl-[52px] pr-3 text-small ${waits ? 'opacity-45' : ''}`}
          >
            <Mark state={f.severity} size={11} />
            <b className={f.severity === 'stop' ? 'text-red-edge' : 'text-amber-edge'}>
              {f.severity === 'stop' ? 'Stop' : 'Look'}
            </b>
            <span>
              <Sentence text={f.message} values={f.values} />
            </span>
            {f.fixes[0] && (
              <button className="link min-h-6 shrink-0" onClick={onPick}>
                what would mend it
              </button>
            )}
          </p>
        ))}
      {chosen && <Worksheet op={op} findings={findings} />}
    </div>
  )
}, drawnAlike)

function DeepWide({ op }: { op: OperationResult }) {
  if (op.depth_mm === null) return <span className="text-ink-3">–</span>
  return (
    <>
      <Figure value={op.depth_mm} quantity="size" trim bare />
      {op.width_mm !== null && (
        <>
          ×<Figure value={op.width_mm} quantity="size" trim bare />
        </>
      )}
    </>
  )
}
