import { useState } from 'react'
import type { Finding, OperationResult } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { FindingRow } from '../../ui/FindingRow'
import { NumberField } from '../../ui/NumberField'
import { Why } from '../../ui/Why'
import { useFrame } from '../frame'
import { asks, useKind, usePlace, valueAt } from './forms'
import { SideChoice } from './SideChoice'
import { Speeds } from './Speeds'
import { ToolChoice } from './ToolChoice'
import { Ways } from './Ways'
import { Where } from './Where'
import { Worked, PassByPass } from './Worked'
import { OnTheBench } from './OnTheBench'
import { Answered } from './Answered'
import { Remarks } from './Remarks'
import { Met } from './Met'
import { Taken } from './Taken'
import { Together } from './Together'

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
  const at = evaluation.setups
    .flatMap((each) => each.stations)
    .find((each) => each.id === op.station)
  const wrong = new Set(findings.filter((f) => f.severity === 'stop').map((f) => f.id))
  const sharing = loaded
    ? (answer.plan.setups
        ?.flatMap((setup) => setup.operations ?? [])
        .filter((each) => each.tool === loaded.id && each.id !== op.id).length ?? 0)
    : 0
  const removalId = `${op.id}.removal`
  const onWhy = (figure: string) => setWhy(why === figure ? null : figure)
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
        <SideChoice kind={op.kind} aim={String(planned.aim ?? '')} station={at} change={change} />
        {[...place.picked, ...kind.picked].filter(asks(planned)).map((spec) => (
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
      <Together op={op} like={String(planned.like ?? '')} change={change} />
      <Answered op={op} machine={home.machine} why={why} onWhy={onWhy} />
      <Met op={op} />
      <Taken op={op} why={why} onWhy={onWhy} />
      <Worked op={op} why={why} onWhy={onWhy} />
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
                  onClick={() => onWhy(finding.why)}
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
      <Remarks op={op} planned={planned} home={home} change={change}>
        <OnTheBench op={op} planned={planned} machine={home.machine} tool={loaded} />
      </Remarks>
    </div>
  )
}
