import { useEffect, useRef, useState } from 'react'
import type { Edit, Finding, SetupResult } from '../../api/client'
import { freshId } from '../../api/freshId'
import { useLibrary } from '../../api/hooks'
import { Choice } from '../../ui/Choice'
import { FindingRow } from '../../ui/FindingRow'
import { clock } from '../../ui/format'
import { Mark } from '../../ui/Mark'
import { Empty } from '../../ui/States'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../JobFrame'
import { Holding } from './Holding'

const UPS = [
  ['+z', 'Top'],
  ['-z', 'Bottom'],
  ['+x', 'Right'],
  ['-x', 'Left'],
  ['+y', 'Back'],
  ['-y', 'Front'],
].map(([value, label]) => ({ value: value!, label: label! }))

type Props = {
  setup: SetupResult
  open: boolean
  chosen: boolean
  onOpen: () => void
  problems: Finding[]
}

// A setup's own line in the ledger; opened, everything about how the part lies, is held and where zero is.
export function SetupCard({ setup, open, chosen, onOpen, problems }: Props) {
  const { answer, session } = useFrame()
  const planned = answer.plan.setups?.find((each) => each.id === setup.id)
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (open) box.current?.scrollIntoView({ block: 'nearest' })
  }, [open])
  if (!planned) return null
  const worst = problems.find((f) => f.severity === 'stop') ?? problems.find((f) => !f.kept)
  return (
    <div
      ref={box}
      className={`${open ? 'border-y border-l-[3px] border-brass' : 'border-b border-hair-strong'} bg-surface`}
    >
      <div
        className="flex cursor-pointer items-baseline gap-2.5 px-4 py-1 hover:bg-mark-wash"
        onClick={onOpen}
      >
        <button
          aria-expanded={open}
          className={`font-semibold ${chosen ? 'text-brass' : ''}`}
          onClick={(event) => (event.stopPropagation(), onOpen())}
        >
          Setup <span className="n">{setup.number}</span>
        </button>
        <span>
          {setup.up}, {setup.held?.name ?? 'not held yet'}
        </span>
        <span className="n text-ink-2">{planned.work_offset}</span>
        <span className="text-small text-ink-2">{setup.number > 1 ? setup.handling : ''}</span>
        {worst && <Mark state={worst.severity} size={12} />}
        <span className="n ml-auto font-semibold">{clock(setup.cycle_s)}</span>
      </div>
      {problems.map((finding) => (
        <div key={finding.key} className="px-4 py-1.5">
          <FindingRow
            finding={finding}
            plan={answer.id}
            revision={answer.revision}
            session={session}
          />
        </div>
      ))}
      {open && <Open setup={setup} />}
    </div>
  )
}

function Open({ setup }: { setup: SetupResult }) {
  const { answer, session } = useFrame()
  const { data: library } = useLibrary()
  const planned = answer.plan.setups?.find((each) => each.id === setup.id)
  if (!planned) return null
  const change = (fields: Record<string, unknown>) =>
    session.edit([{ do: 'change', on: `setup:${setup.id}`, fields }])
  const quietly = (fields: Record<string, unknown>) => void change(fields).catch(() => {})
  const items = (kind: string) => (library?.items ?? []).filter((item) => item.kind === kind)
  const place = answer.plan.setups?.indexOf(planned) ?? 0
  const holes = (
    answer.features as { id: string; kind: string; diameter_mm?: number; point?: number[] }[]
  ).filter((each) => each.kind === 'hole')
  const zero = planned.zero ?? {
    of: 'stock',
    x: 'middle',
    y: 'middle',
    z: 'top',
    z_of: 'part',
    hole: '',
    reason: '',
  }
  const kindOf = (key: string) =>
    String(items('machines').find((item) => item.key === key)?.data.kind ?? '')
  const lathe = kindOf(planned.machine) === 'lathe'
  const quiet = (edit: Edit) => void session.edit([edit]).catch(() => {})
  const flip = (about: 'x' | 'y') =>
    void session.edit([{ do: 'flip_setup', setup: setup.id, about }]).catch(() => {})
  const row = 'grid grid-cols-[92px_1fr] items-center gap-y-1.5 py-1'
  const cells = 'flex flex-wrap items-center gap-x-4 gap-y-1.5'
  return (
    <div className="px-4 pb-2">
      <div className={row}>
        <span className="text-ink-2">Lies</span>
        <div className={cells}>
          <Choice
            label={lathe ? 'Out' : 'Up'}
            value={planned.orientation?.up ?? '+z'}
            options={UPS}
            onChange={(up) => quietly({ 'orientation.up': up })}
          />
          <Choice
            label="Turned"
            value={planned.orientation?.turn ?? 0}
            options={[0, 90, 180, 270].map((value) => ({ value, label: `${value}°` }))}
            onChange={(turn) => quietly({ 'orientation.turn': turn })}
          />
          {lathe ? (
            <button className="press-2" onClick={() => flip('x')}>
              Turn end for end
            </button>
          ) : (
            <>
              <button className="press-2" onClick={() => flip('x')}>
                Turn over about X
              </button>
              <button className="press-2" onClick={() => flip('y')}>
                about Y
              </button>
            </>
          )}
        </div>
        <span className="text-ink-2">Machine</span>
        <div className={cells}>
          <Choice
            label="Machine"
            labelled={false}
            value={planned.machine}
            options={items('machines').map((item) => ({
              value: item.key,
              label: String(item.data.name),
            }))}
            onChange={(machine) => quiet({ do: 'use_machine', setup: setup.id, machine })}
          />
          {(planned.operations ?? []).some((op) => op.tool) && (
            <span className="text-small text-ink-3">
              another machine needs its own tools loaded
            </span>
          )}
        </div>
        <span className="text-ink-2">Held by</span>
        <div className={cells}>
          <Holding
            planned={planned}
            setup={setup}
            change={change}
            hold={(item) => quiet({ do: 'hold', setup: setup.id, item })}
          />
        </div>
        <span className="text-ink-2">Zero</span>
        <div className={cells}>
          <Choice
            label="Work offset"
            labelled={false}
            value={planned.work_offset ?? 'G54'}
            options={(
              (items('machines').find((item) => item.key === planned.machine)?.data.work_offsets as
                string[] | undefined) ?? ['G54']
            ).map((each) => ({ value: each, label: <span className="n">{each}</span> }))}
            onChange={(work_offset) => quietly({ work_offset })}
          />
          {lathe ? (
            <span className="text-ink-2">X on the spindle’s axis</span>
          ) : (
            <>
              <Choice
                label="X Y of"
                value={zero.of === 'hole' ? `hole:${zero.hole}` : (zero.of ?? 'stock')}
                options={[
                  { value: 'stock', label: 'the blank' },
                  { value: 'part', label: 'the finished part' },
                  ...holes.map((hole) => ({
                    value: `hole:${hole.id}`,
                    label: `hole Ø${hole.diameter_mm} at ${hole.point
                      ?.slice(0, 2)
                      .map((v) => Number(v.toFixed(2)))
                      .join(', ')}`,
                  })),
                ]}
                onChange={(of) =>
                  quietly(
                    of.startsWith('hole:')
                      ? { 'zero.of': 'hole', 'zero.hole': of.slice(5) }
                      : { 'zero.of': of, 'zero.hole': '' },
                  )
                }
              />
              {zero.of !== 'hole' && (
                <>
                  <Choice
                    label="X"
                    value={zero.x ?? 'middle'}
                    options={[
                      { value: 'low', label: 'left end' },
                      { value: 'middle', label: 'middle' },
                      { value: 'high', label: 'right end' },
                    ]}
                    onChange={(x) => quietly({ 'zero.x': x })}
                  />
                  <Choice
                    label="Y"
                    value={zero.y ?? 'middle'}
                    options={[
                      { value: 'low', label: 'front' },
                      { value: 'middle', label: 'middle' },
                      { value: 'high', label: 'back' },
                    ]}
                    onChange={(y) => quietly({ 'zero.y': y })}
                  />
                </>
              )}
            </>
          )}
          <Choice
            label="Z"
            value={zero.z ?? 'top'}
            options={
              lathe
                ? [
                    { value: 'top', label: 'free end' },
                    { value: 'bottom', label: 'end in the chuck' },
                  ]
                : [
                    { value: 'top', label: 'top' },
                    { value: 'bottom', label: 'bottom' },
                  ]
            }
            onChange={(z) => quietly({ 'zero.z': z })}
          />
          <Choice
            label="of"
            value={zero.z_of ?? 'part'}
            options={[
              { value: 'part', label: 'the finished part' },
              { value: 'stock', label: 'the blank' },
            ]}
            onChange={(z_of) => quietly({ 'zero.z_of': z_of })}
          />
          <TextField
            label="Because"
            value={zero.reason ?? ''}
            placeholder="why zero is here"
            wide="w-48"
            max={200}
            onCommit={(reason) => change({ 'zero.reason': reason })}
          />
        </div>
        <span className="text-ink-2">Note</span>
        <TextField
          label="Note for the setter"
          labelled={false}
          value={planned.note ?? ''}
          placeholder="for the setter, printed on the sheet"
          wide="w-[420px]"
          onCommit={(note) => change({ note })}
        />
      </div>
      <div className="flex items-baseline gap-4 text-small">
        {place > 0 && (
          <button
            className="link"
            onClick={() =>
              void session
                .edit([{ do: 'move_setup', setup: setup.id, index: place - 1 }])
                .catch(() => {})
            }
          >
            Do this setup earlier
          </button>
        )}
        {place < (answer.plan.setups?.length ?? 1) - 1 && (
          <button
            className="link"
            onClick={() =>
              void session
                .edit([{ do: 'move_setup', setup: setup.id, index: place + 1 }])
                .catch(() => {})
            }
          >
            Do this setup later
          </button>
        )}
        <button
          className="link"
          onClick={() =>
            void session.edit([{ do: 'remove_setup', setup: setup.id }]).catch(() => {})
          }
        >
          Take the setup out{(planned.operations?.length ?? 0) > 0 ? ' with its operations' : ''}
        </button>
        <span className="text-ink-3">Ctrl Z brings anything back.</span>
      </div>
    </div>
  )
}

// The first setup with blank, machine and what holds it there; a further one is the last turned over.
export function AddSetup() {
  const { answer, session } = useFrame()
  const [problem, setProblem] = useState('')
  const last = answer.plan.setups?.at(-1)
  const add = async () => {
    const id = freshId('s')
    try {
      await session.edit([last ? { do: 'turn_over', setup: last.id, id } : { do: 'start', id }])
      setProblem('')
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <div className={last ? 'px-4 py-3' : 'mt-4'}>
      <button className={last ? 'link' : 'press'} onClick={() => void add()}>
        {last ? 'Add a setup, turned over' : 'Add the first setup'}
      </button>
      {problem && (
        <p role="alert" className="mt-1 text-red-edge">
          {problem}
        </p>
      )}
    </div>
  )
}

export function FirstSetup() {
  return (
    <Empty title="No setup yet">
      A setup is one way the part lies in the machine: what is up, how it is held, where zero is.
      Start with the side that gives the next one something machined to sit on.
      <AddSetup />
    </Empty>
  )
}
