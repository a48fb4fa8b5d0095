import { Beginnings } from './Beginnings'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Edit, Finding, SetupResult } from '../../api/client'
import { freshId } from '../../api/freshId'
import { useLibrary } from '../../api/hooks'
import { Choice } from '../../ui/Choice'
import { FindingRow } from '../../ui/FindingRow'
import { clock } from '../../ui/format'
import { Mark } from '../../ui/Mark'
import { NumberField } from '../../ui/NumberField'
import { Empty } from '../../ui/States'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { CELLS, ROW, StationRows } from './StationRows'

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
  const first = setup.stations[0]
  if (!planned || !first) return null
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
        {setup.stations.map((each, k) => (
          <span key={each.id}>
            {each.up}, {each.held?.name ?? 'not held yet'}
            {each.positions > 1 && (
              <>
                {' '}
                × <span className="n">{each.positions}</span>
              </>
            )}
            <span className="n ml-2.5 text-ink-2">{planned.stations[k]?.work_offset}</span>
          </span>
        ))}
        <span className="text-small text-ink-2">{setup.number > 1 ? first.handling : ''}</span>
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
  const machines = (library?.items ?? []).filter((item) => item.kind === 'machines')
  const machine = machines.find((item) => item.key === planned.machine)?.data
  const tables = (machine?.places ?? []) as { plates?: { key: string; name: string }[] }[]
  const plates = tables.flatMap((each) => each.plates ?? [])
  const place = answer.plan.setups?.indexOf(planned) ?? 0
  const quiet = (edit: Edit) => session.send([edit])
  return (
    <div className="px-4 pb-2">
      <div className={ROW}>
        <span className="text-ink-2">Machine</span>
        <div className={CELLS}>
          <Choice
            label="Machine"
            labelled={false}
            value={planned.machine}
            options={machines.map((item) => ({
              value: item.key,
              label: String(item.data.name),
            }))}
            onChange={(machine) => quiet({ do: 'use_machine', setup: setup.id, machine })}
          />
          {plates.length > 0 && (
            <Choice
              label="stands on"
              value={planned.plate ?? ''}
              options={[
                { value: '', label: 'the table' },
                ...plates.map(({ key, name }) => ({ value: key, label: `the ${name}` })),
              ]}
              onChange={(plate) =>
                quiet({ do: 'change', on: `setup:${setup.id}`, fields: { plate } })
              }
            />
          )}
          {(planned.operations ?? []).some((op) => op.tool) && (
            <span className="text-small text-ink-3">
              another machine needs its own tools loaded
            </span>
          )}
        </div>
        {planned.stations.map((each, k) => (
          <StationRows
            key={each.id}
            planned={each}
            station={setup.stations[k]!}
            lathe={setup.turns}
            machine={machine}
          />
        ))}
        {!setup.turns && (
          <>
            <span className="text-ink-2">Between cuts</span>
            <div className={CELLS}>
              <NumberField
                label="over all that stands there"
                value={planned.retract_mm ?? null}
                quantity="length"
                empty="shop’s"
                onCommit={(value) =>
                  session.edit([
                    { do: 'change', on: `setup:${setup.id}`, fields: { retract_mm: value } },
                  ])
                }
              />
            </div>
          </>
        )}
        <span className="text-ink-2">Note</span>
        <TextField
          label="Note for the setter"
          labelled={false}
          value={planned.note ?? ''}
          placeholder="for the setter, printed on the sheet"
          wide="w-[420px]"
          onCommit={(note) =>
            session.edit([{ do: 'change', on: `setup:${setup.id}`, fields: { note } }])
          }
        />
      </div>
      <div className="flex items-baseline gap-4 text-small">
        {place > 0 && (
          <button
            className="link"
            onClick={() => session.send([{ do: 'move_setup', setup: setup.id, index: place - 1 }])}
          >
            Do this setup earlier
          </button>
        )}
        {place < (answer.plan.setups?.length ?? 1) - 1 && (
          <button
            className="link"
            onClick={() => session.send([{ do: 'move_setup', setup: setup.id, index: place + 1 }])}
          >
            Do this setup later
          </button>
        )}
        <button
          className="link"
          onClick={() => session.send([{ do: 'remove_setup', setup: setup.id }])}
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
    const [id, station] = [freshId('s'), freshId('st')]
    try {
      await session.edit([
        last
          ? { do: 'turn_over', setup: last.id, id, station, about: 'x' }
          : { do: 'start', id, station },
      ])
      setProblem('')
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <div className={last ? 'px-4 py-3' : 'mt-4'}>
      <button className={last ? 'link' : 'press-2'} onClick={() => void add()}>
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
  const { base } = useFrame()
  return (
    <Empty title="No setup yet">
      A setup is one way the part lies in the machine: what is up, how it is held, where zero is.
      Start with the side that gives the next one something machined to sit on.
      <AddSetup />
      <p className="mt-2">
        <Link className="link" to={`${base}/propose`}>
          Have whole plans proposed
        </Link>
      </p>
      <Beginnings />
    </Empty>
  )
}
