import type { OperationResult, PlannedSetup } from '../../api/client'
import { freshId } from '../../api/freshId'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { ClampsAfter } from './ClampsAfter'

type Props = {
  op: OperationResult
  planned: Record<string, unknown>
  home: PlannedSetup
  change: (fields: Record<string, unknown>) => Promise<unknown>
  children: React.ReactNode
}

// What is written about an operation for the sheet, and what can be done with it as a whole.
export function Remarks({ op, planned, home, change, children }: Props) {
  const { answer, session } = useFrame()
  return (
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
      {(op.ranges.length > 0 || Boolean(planned.spindle_range)) && (
        <Choice
          label="Range"
          value={String(planned.spindle_range ?? '')}
          options={rangesOf(op, String(planned.spindle_range ?? ''))}
          onChange={(spindle_range) => void quietly(change({ spindle_range }))}
        />
      )}
      <TextField
        label="Stop after"
        value={String(planned.stop_after ?? '')}
        placeholder="message for a mandatory stop"
        wide="w-56"
        onCommit={(stop_after) => change({ stop_after })}
      />
      {Boolean(planned.stop_after) && (
        <NumberField
          label="which takes"
          value={(planned.stop_s as number | null | undefined) ?? null}
          quantity="seconds"
          empty="usual"
          onCommit={(stop_s) => change({ stop_s })}
        />
      )}
      <ClampsAfter op={op} planned={planned} home={home} change={change} />
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
      {children}
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
  )
}

// Ranges of the spindle: the machine's choice first; one it no longer has stands there until another is chosen.
function rangesOf(op: OperationResult, planned: string) {
  const names = planned && !op.ranges.includes(planned) ? [planned, ...op.ranges] : op.ranges
  const usual = planned ? 'most power' : `most power: ${op.spindle_range || '…'}`
  return [{ value: '', label: usual }, ...names.map((each) => ({ value: each, label: each }))]
}
