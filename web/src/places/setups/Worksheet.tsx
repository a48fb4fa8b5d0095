import { useState } from 'react'
import type { Finding, OperationResult } from '../../api/client'
import { Link } from 'react-router'
import { freshId } from '../../api/freshId'
import { useCalculators, useLibrary, useWords } from '../../api/hooks'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { Figure } from '../../ui/Figure'
import { FindingRow } from '../../ui/FindingRow'
import { clock } from '../../ui/format'
import { Gauge } from '../../ui/Gauge'
import { Mark, QUESTION_NAME, QUESTIONS, QuestionIcon } from '../../ui/Mark'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { Why } from '../../ui/Why'
import { benchLink, comparisons } from '../bench/fromOperation'
import { useFrame } from '../frame'
import { useKind, usePlace, valueAt } from './forms'
import { Speeds } from './Speeds'
import { ToolChoice } from './ToolChoice'
import { Ways } from './Ways'
import { Where } from './Where'

// An operation opened in its place: what is decided, what follows from it, what is wrong and what would mend it.
export function Worksheet({ op, findings }: { op: OperationResult; findings: Finding[] }) {
  const { answer, evaluation, session } = useFrame()
  const [why, setWhy] = useState<string | null>(null)
  const [ways, setWays] = useState(false)
  const planned = answer.plan.setups
    ?.flatMap((setup) => setup.operations ?? [])
    .find((each) => each.id === op.id) as unknown as Record<string, unknown> | undefined
  const home = answer.plan.setups?.find((setup) =>
    setup.operations?.some((each) => each.id === op.id),
  )
  const place = usePlace((planned?.on as { kind: string } | undefined)?.kind ?? '')
  const kind = useKind(op.kind)
  if (!planned || !evaluation || !home || !kind) return null
  const loaded = answer.plan.tools?.find((tool) => tool.id === planned.tool)
  const change = (fields: Record<string, unknown>) =>
    session.edit([{ do: 'change', on: `operation:${op.id}`, fields }])
  const wrong = new Set(findings.filter((f) => f.severity === 'stop').map((f) => f.id))
  const sharing = loaded
    ? (answer.plan.setups
        ?.flatMap((setup) => setup.operations ?? [])
        .filter((each) => each.tool === loaded.id && each.id !== op.id).length ?? 0)
    : 0
  const rows = QUESTIONS.map((question) => ({
    question,
    gauges: op.gauges.filter((gauge) => gauge.question === question),
    answer: op.answers[question],
  }))
  const removalId = `${op.id}.removal`
  const removal = evaluation.figures[removalId]?.[0]
  const shownFigure = (id: string) => (why === id ? null : id)
  return (
    <div className="px-3 pb-2.5 pl-[52px] pt-1">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1.5 pb-2">
        <ToolChoice
          op={op}
          value={String(planned.tool ?? '')}
          onChange={(edits) => session.send(edits)}
        />
        {loaded && (
          <span
            className="inline-flex items-center gap-1.5"
            title={
              sharing
                ? `also used by ${sharing} other operation${sharing > 1 ? 's' : ''}`
                : undefined
            }
          >
            <NumberField
              label="Stick-out"
              value={loaded.stick_out_mm}
              quantity="length"
              bad={wrong.has('reach.stick-out-short') || wrong.has('reach.shank-in-holder')}
              onCommit={(value) =>
                session.edit([
                  { do: 'change', on: `tool:${loaded.id}`, fields: { stick_out_mm: value } },
                ])
              }
            />
            {sharing > 0 && <span className="text-small text-ink-3">+{sharing} more</span>}
          </span>
        )}
        <Speeds op={op} planned={planned} change={change} bad={wrong.has('travel.speed-over')} />
        {[...place.typed, ...kind.typed].map((spec) => (
          <NumberField
            key={spec.name}
            label={spec.label}
            quantity={spec.quantity}
            value={(valueAt(planned, spec.name) as number | null | undefined) ?? null}
            empty={spec.empty || undefined}
            onCommit={(value) =>
              change({
                [spec.name]:
                  spec.quantity === 'count' && value !== null ? Math.round(value) : value,
                ...(spec.instead_of ? { [spec.instead_of]: null } : {}),
              })
            }
          />
        ))}
        {[...place.picked, ...kind.picked].map((spec) => (
          <Choice
            key={spec.name}
            label={spec.label}
            value={String(valueAt(planned, spec.name))}
            options={spec.options}
            onChange={(value) => void quietly(change({ [spec.name]: value }))}
          />
        ))}
        <Where planned={planned} on={planned.on as Record<string, unknown>} change={change} />
      </div>
      <div className="border-t border-hair pt-1">
        {rows.map(({ question, gauges, answer: state }) => (
          <div key={question}>
            {gauges.length === 0 && (
              <p className="grid grid-cols-[76px_1fr] items-center py-px">
                <span className="flex items-center gap-1.5 font-semibold">
                  <QuestionIcon question={question} /> {QUESTION_NAME[question]}
                </span>
                <span className="text-ink-2">
                  {state?.state === 'unknown' ? (
                    <>
                      <Mark state="unknown" /> {state.reason}
                    </>
                  ) : state?.state === 'fine' ? (
                    'nothing in the way'
                  ) : (
                    ''
                  )}
                </span>
              </p>
            )}
            {question === 'travel' && gauges.length > 0 && (
              <Travel gauges={gauges} why={why} onWhy={(figure) => setWhy(shownFigure(figure))} />
            )}
            {question === 'travel' && gauges.some((gauge) => gauge.figure === why) && why && (
              <Why
                figure={why}
                evaluation={evaluation}
                plan={answer.id}
                revision={answer.revision}
              />
            )}
            {question !== 'travel' &&
              gauges.map((gauge, place) => (
                <div key={gauge.id}>
                  <div className="grid grid-cols-[76px_96px_minmax(0,1fr)_84px_92px_34px] items-center gap-x-2 py-px">
                    <span className="flex items-center gap-1.5 font-semibold">
                      {place === 0 && (
                        <>
                          <QuestionIcon question={question} /> {QUESTION_NAME[question]}
                        </>
                      )}
                    </span>
                    <span>
                      {gauge.id === 'power' ? (
                        <Link
                          className="hover:underline"
                          title="on the machine’s curve"
                          to={`/library/machines/${home.machine}`}
                        >
                          {gauge.name}
                        </Link>
                      ) : (
                        gauge.name
                      )}
                    </span>
                    <Gauge gauge={gauge} />
                    <span className="text-right">
                      <Figure value={gauge.value} quantity={gauge.quantity} />
                    </span>
                    <span className="text-small text-ink-2">
                      {gauge.kind === 'needs' ? (
                        <>
                          needs <Figure value={gauge.limit} quantity={gauge.quantity} bare />
                        </>
                      ) : (
                        <>
                          up to <Figure value={gauge.limit} quantity={gauge.quantity} bare />
                        </>
                      )}
                    </span>
                    <button
                      className="link text-small"
                      aria-expanded={why === gauge.figure}
                      onClick={() => setWhy(shownFigure(gauge.figure))}
                    >
                      {why === gauge.figure ? 'hide' : 'why'}
                    </button>
                  </div>
                  {why === gauge.figure && (
                    <Why
                      figure={gauge.figure}
                      evaluation={evaluation}
                      plan={answer.id}
                      revision={answer.revision}
                    />
                  )}
                </div>
              ))}
          </div>
        ))}
      </div>
      <p className="grid grid-cols-[76px_1fr] items-center border-t border-hair py-1">
        <span className="font-semibold">Time</span>
        <span className="flex flex-wrap gap-x-4">
          <span>
            in cut <b className="n">{clock(op.cutting_s)}</b> on{' '}
            <Figure value={op.path_mm} quantity="path" />
          </span>
          <span>
            moves <b className="n">{clock(op.moving_s)}</b> on{' '}
            <Figure value={op.rapid_mm} quantity="path" />
          </span>
          <span>
            {op.change_s > 0 ? (
              <>
                tool change <b className="n">{clock(op.change_s)}</b>
              </>
            ) : (
              'same tool as before'
            )}
          </span>
          {typeof removal === 'number' && (
            <span>
              at <Figure value={removal} quantity="removal" />{' '}
              <button
                className="link text-small"
                aria-label="why the removal rate"
                aria-expanded={why === removalId}
                onClick={() => setWhy(shownFigure(removalId))}
              >
                {why === removalId ? 'hide' : 'why'}
              </button>
            </span>
          )}
          {op.removed_mm3 > 0 && (
            <span>
              takes <Figure value={op.removed_mm3} quantity="volume" />
            </span>
          )}
        </span>
      </p>
      <Worked op={op} why={why} onWhy={(figure) => setWhy(shownFigure(figure))} />
      {why &&
        op.worked.some((each) => each.figure === why) &&
        !op.gauges.some((gauge) => gauge.figure === why) && (
          <Why figure={why} evaluation={evaluation} plan={answer.id} revision={answer.revision} />
        )}
      {op.table && <PassByPass table={op.table} />}
      {kind.ways && (
        <p className="border-t border-hair py-1">
          <button className="link" aria-expanded={ways} onClick={() => setWays(!ways)}>
            {ways ? 'Hide the other ways' : 'What else would do?'}
          </button>
          {!ways && <span className="ml-3 text-small text-ink-2">{kind.ways}</span>}
        </p>
      )}
      {ways && kind.ways && <Ways operation={op.id} shown={kind.shown} />}
      {why === removalId && (
        <Why
          figure={removalId}
          evaluation={evaluation}
          plan={answer.id}
          revision={answer.revision}
        />
      )}
      {findings.map((finding) => (
        <div key={finding.key} className="mt-1.5 border-t border-hair pt-2">
          <FindingRow
            finding={finding}
            plan={answer.id}
            revision={answer.revision}
            session={session}
            why={
              finding.why && (
                <button
                  className="link text-small"
                  aria-label={`why: ${finding.id}`}
                  aria-expanded={why === finding.why}
                  onClick={() => setWhy(shownFigure(finding.why))}
                >
                  {why === finding.why ? 'hide' : 'why'}
                </button>
              )
            }
            opened={
              why === finding.why &&
              why &&
              !op.gauges.some((gauge) => gauge.figure === finding.why) && (
                <Why
                  figure={finding.why}
                  evaluation={evaluation}
                  plan={answer.id}
                  revision={answer.revision}
                />
              )
            }
          />
        </div>
      ))}
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1.5 border-t border-hair pt-2">
        <Choice
          label="Coolant"
          value={String(planned.coolant)}
          options={['flood', 'mist', 'air', 'through', 'none'].map((each) => ({
            value: each,
            label: each,
          }))}
          onChange={(coolant) => void quietly(change({ coolant }))}
        />
        <TextField
          label="Stop after"
          value={String(planned.stop_after ?? '')}
          placeholder="message for a mandatory stop"
          wide="w-56"
          onCommit={(stop_after) => change({ stop_after })}
        />
        <TextField
          label="Note"
          value={String(planned.reason ?? '')}
          placeholder="for the sheet: why it is done this way"
          wide="w-52"
          max={500}
          onCommit={(reason) => change({ reason })}
        />
        <label
          className="inline-flex items-center gap-1.5 text-ink-2"
          title="it can’t be moved while it is pinned; the note says why"
        >
          <input
            type="checkbox"
            checked={planned.pinned === true}
            onChange={(event) => void quietly(change({ pinned: event.target.checked }))}
          />{' '}
          keeps its place
        </label>
        <OnTheBench op={op} planned={planned} machine={home.machine} tool={loaded} />
        <span className="ml-auto flex gap-3 text-small">
          <button
            className="link"
            onClick={() =>
              session.send([{ do: 'duplicate_operation', operation: op.id, new_id: freshId('o') }])
            }
          >
            Duplicate
          </button>
          {answer.plan.setups
            ?.filter((setup) => setup.id !== home.id)
            .map((setup) => (
              <button
                key={setup.id}
                className="link"
                onClick={() =>
                  session.send([
                    {
                      do: 'move_operation',
                      operation: op.id,
                      setup: setup.id,
                      index: setup.operations?.length ?? 0,
                    },
                  ])
                }
              >
                Move to setup {(answer.plan.setups?.indexOf(setup) ?? 0) + 1}
              </button>
            ))}
          <button
            className="link"
            onClick={() => session.send([{ do: 'remove_operation', operation: op.id }])}
          >
            Take out
          </button>
        </span>
      </div>
    </div>
  )
}

type WorkedProps = { op: OperationResult; why: string | null; onWhy: (figure: string) => void }

// What would be worked out on paper for this kind of cut, each figure with its why.
function Worked({ op, why, onWhy }: WorkedProps) {
  if (op.worked.length === 0) return null
  return (
    <p className="grid grid-cols-[76px_1fr] items-baseline border-t border-hair py-1">
      <span className="font-semibold">Worked</span>
      <span className="flex flex-wrap gap-x-4">
        {op.worked.map((each) => (
          <span key={each.figure}>
            {each.name} <Figure value={each.value} quantity={each.quantity} />{' '}
            <button
              className="link text-small"
              aria-label={`why ${each.name}`}
              aria-expanded={why === each.figure}
              onClick={() => onWhy(each.figure)}
            >
              {why === each.figure ? 'hide' : 'why'}
            </button>
          </span>
        ))}
      </span>
    </p>
  )
}

function PassByPass({ table }: { table: NonNullable<OperationResult['table']> }) {
  return (
    <div className="grid grid-cols-[76px_1fr] border-t border-hair py-1">
      <span className="font-semibold">By pass</span>
      <table className="w-max text-small [&_td]:px-3 [&_td]:text-right [&_th]:px-3 [&_th]:text-right">
        <thead>
          <tr>
            {table.columns.map((column) => (
              <th key={column.name} scope="col" className="font-normal text-ink-2">
                {column.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, place) => (
            <tr key={place} className="border-t border-hair">
              {row.map((value, at) => (
                <td key={at}>
                  <Figure value={value} quantity={table.columns[at]?.quantity ?? ''} bare />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

type BenchProps = {
  op: OperationResult
  planned: Record<string, unknown>
  machine: string
  tool?: { assembly: string; stick_out_mm: number }
}

// The calculators that serve this kind of operation, opened with its values.
function OnTheBench({ op, planned, machine, tool }: BenchProps) {
  const { job, answer, evaluation } = useFrame()
  const { data: library } = useLibrary()
  const { data: calculators } = useCalculators()
  const { data: words } = useWords()
  const serving = calculators?.filter((each) => each.serves.includes(op.kind)) ?? []
  const kind = useKind(op.kind)
  const compared = comparisons({
    op,
    bench: kind?.bench ?? '',
    planned,
    material: answer.plan.material ?? '',
    quantity: answer.plan.quantity ?? 1,
    assemblies: (answer.plan.tools ?? [])
      .filter((each) => each.machine === machine)
      .map((each) => each.assembly),
  })
  if (!evaluation || serving.length + compared.length === 0) return null
  const item = (kind: string, key: unknown) =>
    library?.items.find((each) => each.kind === kind && each.key === key)?.data
  const about = {
    op,
    planned,
    evaluation,
    stickOut: tool?.stick_out_mm,
    stiffness: words?.stiffness ?? {},
    tool: item('tools', item('assemblies', tool?.assembly)?.tool),
    machine: item('machines', machine),
    material: item('materials', answer.plan.material),
  }
  return (
    <span className="flex flex-wrap gap-x-3 text-small">
      <span className="text-ink-2">On the bench:</span>
      {serving.map((each) => (
        <Link key={each.name} className="link" to={benchLink(each, job.number, about)}>
          {each.title.toLowerCase()}
        </Link>
      ))}
      {compared.map((each) => (
        <Link key={each.to} className="link" to={each.to}>
          {each.words}
        </Link>
      ))}
    </span>
  )
}

type Gauges = OperationResult['gauges']
// Room on every axis in one line; what runs out stands out.
function Travel({
  gauges,
  why,
  onWhy,
}: {
  gauges: Gauges
  why: string | null
  onWhy: (figure: string) => void
}) {
  return (
    <p className="grid grid-cols-[76px_1fr] items-center py-px">
      <span className="flex items-center gap-1.5 font-semibold">
        <QuestionIcon question="travel" /> Travel
      </span>
      <span className="flex flex-wrap gap-x-4">
        {gauges.map((gauge) => (
          <span key={gauge.id} className={gauge.value < 0 ? 'font-semibold text-red-edge' : ''}>
            {gauge.name} <Figure value={gauge.value} quantity={gauge.quantity} bare />{' '}
            <button
              className="link text-small"
              aria-label={`why ${gauge.name}`}
              aria-expanded={why === gauge.figure}
              onClick={() => onWhy(gauge.figure)}
            >
              {why === gauge.figure ? 'hide' : 'why'}
            </button>
          </span>
        ))}
        <span className="text-ink-2">to spare</span>
      </span>
    </p>
  )
}
