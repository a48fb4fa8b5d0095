import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { Fragment, memo, useEffect, useMemo, useRef } from 'react'
import type { Finding, OperationResult } from '../../api/client'
import { Figure, Sentence, Sizes } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { Mark, QUESTION_NAME, QUESTIONS, type Question, QuestionIcon } from '../../ui/Mark'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'
import { Adder } from './Adder'
import { AddSetup, SetupCard } from './SetupCard'
import type { useSelection } from './selection'
import { Worksheet } from './Worksheet'

export const COLUMNS =
  'grid grid-cols-[34px_minmax(0,1fr)_112px_44px_40px_80px_38px_36px_repeat(5,31px)] items-center gap-x-1.5'
type Selection = ReturnType<typeof useSelection>
type Props = {
  selection: Selection
  question: Question | null
  adding: string | null
  setAdding: (setup: string | null) => void
}

export function Ledger({ selection, question, adding, setAdding }: Props) {
  const { answer, evaluation, session } = useFrame()
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  if (!evaluation) return null
  const { plan } = answer
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return
    const target = plan.setups?.find(
      (setup) => setup.id === over.id || setup.operations?.some((op) => op.id === over.id),
    )
    if (!target) return
    const index =
      target.id === over.id
        ? (target.operations?.length ?? 0)
        : (target.operations?.findIndex((op) => op.id === over.id) ?? 0)
    session.send([{ do: 'move_operation', operation: String(active.id), setup: target.id, index }])
  }
  return (
    <section aria-label="Operations" className="grid min-h-0 grid-rows-[auto_1fr] bg-paper">
      <div
        className={`${COLUMNS} border-b border-hair-strong px-3 pb-1 pt-1.5 text-small text-ink-2`}
      >
        <span />
        <span>Operation</span>
        <span>Tool</span>
        <span className="text-right">rpm</span>
        <span className="text-right">feed</span>
        <span>deep × wide</span>
        <span className="text-right">leave</span>
        <span className="text-right">time</span>
        {QUESTIONS.map((each) => (
          <span
            key={each}
            className={`flex flex-col items-center leading-4 ${question === each ? 'font-semibold text-ink' : ''}`}
          >
            <QuestionIcon question={each} />
            {QUESTION_NAME[each]}
          </span>
        ))}
      </div>
      <div className="relative min-h-0 overflow-y-auto overflow-x-hidden">
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          {evaluation.setups.map((setup) => {
            const planned = plan.setups?.find((each) => each.id === setup.id)
            const open = selection.setupOpen && selection.setup === setup.id
            const problems = evaluation.findings.filter((f) => f.setup === setup.id && !f.operation)
            return (
              <Fragment key={setup.id}>
                <SetupCard
                  setup={setup}
                  open={open}
                  chosen={selection.setup === setup.id}
                  onOpen={() => selection.pick(setup.id, null, !open)}
                  problems={problems}
                />
                <Sortable ids={setup.operations.map((op) => op.id)}>
                  {setup.operations.map((op) => (
                    <Row
                      key={op.id}
                      op={op}
                      setup={setup.id}
                      chosen={op.id === selection.operation}
                      question={question}
                      findings={evaluation.findings.filter((f) => f.operation === op.id)}
                      pick={selection.pick}
                    />
                  ))}
                </Sortable>
                {setup.operations.length === 0 && adding !== setup.id && (
                  <p className="border-b border-hair px-4 py-3 text-ink-2">
                    Nothing is cut in this setup yet.
                  </p>
                )}
                {adding === setup.id ? (
                  <Adder
                    setup={setup.id}
                    onDone={(id) => (setAdding(null), id && selection.pick(setup.id, id))}
                  />
                ) : (
                  <div className="flex items-center gap-3 border-b border-hair px-4 py-1.5 text-small text-ink-2">
                    <span>
                      <span className="n">{setup.operations.length}</span> operations
                    </span>
                    <span>
                      <span className="n">{setup.tools}</span> tools
                    </span>
                    <span>
                      in cut <b className="n text-ink">{clock(setup.cutting_s)}</b>
                    </span>
                    <span>
                      tool changes <b className="n text-ink">{clock(setup.changes_s)}</b>
                    </span>
                    {setup.by_hand_s > 0 && (
                      <span>
                        attended <b className="n text-ink">{clock(setup.by_hand_s)}</b>
                      </span>
                    )}
                    <span>
                      cycle{' '}
                      <WhyOf
                        figure={`${setup.id}.cycle`}
                        evaluation={evaluation}
                        words={`Cycle of setup ${setup.number}`}
                      >
                        <b className="n text-ink">{clock(setup.cycle_s)}</b>
                      </WhyOf>
                    </span>
                    <button
                      className="link ml-auto text-body text-ink"
                      onClick={() => setAdding(setup.id)}
                    >
                      Add an operation
                    </button>
                  </div>
                )}
                {planned?.note && <span className="sr-only">{planned.note}</span>}
              </Fragment>
            )
          })}
        </DndContext>
        <AddSetup />
      </div>
    </section>
  )
}

// The ids keep their identity while they stay the same, so that a changed time does not stir every row.
function Sortable({ ids, children }: { ids: string[]; children: React.ReactNode }) {
  const joined = ids.join(' ')
  const items = useMemo(() => joined.split(' ').filter(Boolean), [joined])
  return (
    <SortableContext items={items} strategy={verticalListSortingStrategy}>
      {children}
    </SortableContext>
  )
}

type RowProps = {
  op: OperationResult
  setup: string
  chosen: boolean
  question: Question | null
  findings: Finding[]
  pick: Selection['pick']
}

// An answer keeps what did not change (the cache shares equal parts), so a row is drawn anew only when it differs.
const drawnAlike = (a: RowProps, b: RowProps) =>
  a.op === b.op &&
  a.setup === b.setup &&
  a.chosen === b.chosen &&
  a.question === b.question &&
  a.pick === b.pick &&
  a.findings.length === b.findings.length &&
  a.findings.every((f, k) => f === b.findings[k])

const Row = memo(function Row({ op, setup, chosen, question, findings, pick }: RowProps) {
  const onPick = () => pick(setup, chosen ? null : op.id)
  const { setNodeRef, transform, transition, attributes, listeners, isDragging } = useSortable({
    id: op.id,
  })
  const box = useRef<HTMLDivElement | null>(null)
  useEffect(() => {
    if (chosen) box.current?.scrollIntoView({ block: 'nearest' })
  }, [chosen])
  const state = (each: Question) => op.answers[each]?.state ?? 'unknown'
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
        className={`${COLUMNS} min-h-[26px] cursor-pointer px-3 ${chosen ? 'pl-[9px]' : 'hover:bg-mark-wash'}`}
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
          className="truncate text-left font-semibold"
          aria-expanded={chosen}
          onClick={(event) => (event.stopPropagation(), onPick())}
        >
          {op.title} <Sizes of={op} />
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
          <p key={f.key} className="flex items-center gap-2 py-0.5 pl-[52px] pr-3 text-small">
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
