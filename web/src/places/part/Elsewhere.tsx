import type { Plan } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { PickedPlaces } from './PickedPlaces'
import { read, written } from './priceBreaks'

type Step = NonNullable<Plan['outside']>[number]
type Kind = Step['kind']

const DONE: { value: Kind; label: string }[] = [
  { value: 'ground', label: 'ground' },
  { value: 'plated', label: 'plated' },
  { value: 'coated', label: 'coated' },
  { value: 'hardened', label: 'hardened' },
  { value: 'glued', label: 'glued' },
  { value: 'other', label: 'worked on' },
]
const BLANK = 'blank'
const NUMBERS: ['days' | 'lot_cost' | 'piece_cost', string][] = [
  ['days', 'Days away'],
  ['lot_cost', 'Cost a lot'],
  ['piece_cost', 'a piece'],
]

// What is done to the part away from the machines: between which setups, where on it, and by whom.
export function Elsewhere() {
  const { answer, session } = useFrame()
  const steps = answer.plan.outside ?? []
  const set = (next: (steps: Step[]) => Step[]) =>
    session.edit((plan) => [
      { do: 'change', on: 'plan', fields: { outside: next(plan.outside ?? []) } },
    ])
  const stations = afterWhat(answer.plan)
  const add = (kind: Kind) =>
    void quietly(
      set((now) => [
        ...now,
        {
          id: freshOf(now),
          kind,
          after: stations[stations.length - 1]!.value,
          features: [],
          words: '',
          days: null,
          lot_cost: null,
          piece_cost: null,
          piece_breaks: [],
        },
      ]),
    )
  return (
    <div className="grid gap-1.5">
      {steps.map((step) => (
        <Row
          key={step.id}
          step={step}
          after={stations}
          onChange={(fields) =>
            set((now) => now.map((each) => (each.id === step.id ? { ...each, ...fields } : each)))
          }
          onGone={() => void quietly(set((now) => now.filter((each) => each.id !== step.id)))}
        />
      ))}
      <Choice
        label="Elsewhere it is also"
        value={'' as Kind | ''}
        options={[{ value: '', label: steps.length ? 'nothing more' : 'nothing' }, ...DONE]}
        onChange={(kind) => kind && add(kind)}
      />
    </div>
  )
}

function Row({
  step,
  after,
  onChange,
  onGone,
}: {
  step: Step
  after: { value: string; label: string }[]
  onChange: (fields: Partial<Step>) => Promise<unknown>
  onGone: () => void
}) {
  const quiet = (fields: Partial<Step>) => void quietly(onChange(fields))
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5 border-b border-hair pb-1.5">
      <Choice label="It is" value={step.kind} options={DONE} onChange={(kind) => quiet({ kind })} />
      <Choice
        label="after"
        value={step.after}
        options={after}
        onChange={(value) => quiet({ after: value })}
      />
      <PickedPlaces
        label="on"
        none="all of it"
        picked={step.features ?? []}
        without={(name) => `Not on ${name}`}
        onChange={(features) => quiet({ features })}
      />
      <TextField
        label="By whom, how"
        value={step.words ?? ''}
        wide="w-56"
        max={200}
        onCommit={(words) => onChange({ words })}
      />
      {NUMBERS.map(([field, label]) => (
        <NumberField
          key={field}
          label={label}
          value={step[field] ?? null}
          quantity="number"
          empty="–"
          onCommit={(value) => onChange({ [field]: value })}
        />
      ))}
      {step.piece_cost != null && (
        <TextField
          label="from so many on"
          value={written(step.piece_breaks ?? [])}
          placeholder="20: 4, 50: 3.50"
          wide="w-40"
          onCommit={async (text) => onChange({ piece_breaks: read(text) })}
        />
      )}
      <button className="link text-small" onClick={onGone}>
        Take out
      </button>
    </div>
  )
}

// What it can leave from: the store with its blank, or a station of a setup.
function afterWhat(plan: Plan): { value: string; label: string }[] {
  const stations = (plan.setups ?? []).flatMap((setup, k) =>
    setup.stations.map((station, n) => ({
      value: station.id,
      label: setup.stations.length > 1 ? `setup ${k + 1}, station ${n + 1}` : `setup ${k + 1}`,
    })),
  )
  return [{ value: BLANK, label: 'the blank, before setup 1' }, ...stations]
}

function freshOf(steps: Step[]): string {
  const taken = new Set(steps.map((each) => each.id))
  let k = 1
  while (taken.has(`out${k}`)) k += 1
  return `out${k}`
}
