import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { Fragment, useMemo } from 'react'
import { clock } from '../../ui/format'
import { QUESTION_NAME, QUESTIONS, type Question, QuestionIcon } from '../../ui/Mark'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'
import { Adder } from './Adder'
import { AddSetup, SetupCard } from './SetupCard'
import type { useSelection } from './selection'
import { Row, COLUMNS } from './LedgerRow'
import { RunHeading, underHeadings } from './RunHeading'

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
                  {underHeadings(setup).map(({ op, heading, under }) => (
                    <Fragment key={op.id}>
                      {heading && <RunHeading {...heading} />}
                      <Row
                        op={op}
                        under={under}
                        setup={setup.id}
                        chosen={op.id === selection.operation}
                        question={question}
                        findings={evaluation.findings.filter((f) => f.operation === op.id)}
                        station={
                          setup.stations.length > 1
                            ? setup.stations.findIndex((each) => each.id === op.station) + 1
                            : 0
                        }
                        pick={selection.pick}
                      />
                    </Fragment>
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
