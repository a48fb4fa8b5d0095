import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer, type PlannedStation } from '../../api/client'
import type { components } from '../../api/schema'
import { useUnits } from '../../app/units'
import { Choice } from '../../ui/Choice'
import { Figure } from '../../ui/Figure'
import { fill } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { CleansUp } from './CleansUp'
import { PlaceWays } from './PlaceWays'

type Axis = components['schemas']['ZeroAxisOut']
type Place = Axis['choices'][number]
type Taken = { of: string; at: string; feature: string; off_mm: number; by: string }
type Fields = Record<string, unknown>

const name = (place: { of: string; at: string; feature: string }) =>
  `${place.of}|${place.at}|${place.feature}`

const useZero = (answer: PlanAnswer, station: string) =>
  useQuery({
    queryKey: ['zero', answer.id, answer.revision, station],
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/stations/{station}/zero', {
          params: { path: { id: answer.id, station } },
        }),
      ),
  })

// Where the zero of a station is, axis by axis, and how it is picked up.
export function ZeroRows({
  planned,
  lathe,
  offsets,
  change,
  set,
}: {
  planned: PlannedStation
  lathe: boolean
  offsets: string[]
  change: (fields: Fields) => Promise<unknown>
  set: (fields: Fields) => void
}) {
  const { answer } = useFrame()
  const { data, error } = useZero(answer, planned.id)
  const zero = (planned.zero ?? {}) as unknown as Record<string, Taken | undefined> & {
    each_part?: boolean
    reason?: string
  }
  return (
    <div className="flex flex-col gap-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Choice
          label="Work offset"
          labelled={false}
          value={planned.work_offset ?? 'G54'}
          options={offsets.map((each) => ({
            value: each,
            label: <span className="n">{each}</span>,
          }))}
          onChange={(work_offset) => set({ work_offset })}
        />
        <Choice
          label="picked up"
          value={zero.each_part ? 'each' : 'first'}
          options={[
            { value: 'first', label: 'on the first part' },
            { value: 'each', label: 'on every part' },
          ]}
          onChange={(when) => set({ 'zero.each_part': when === 'each' })}
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
      {lathe && <p className="text-ink-2">X is on the spindle’s axis.</p>}
      {error && <p className="text-red">What it could be taken from can’t be shown now.</p>}
      {!data && !error && <p className="text-ink-2">Looking at what is there…</p>}
      {data?.map((axis) => (
        <AxisRow
          key={axis.axis}
          axis={axis}
          taken={zero[axis.axis] ?? USUAL[axis.axis]!}
          change={change}
          set={set}
        />
      ))}
      <CleansUp planned={planned} />
      {!lathe && <PlaceWays key={planned.id} station={planned.id} />}
    </div>
  )
}

const MIDDLE: Taken = { of: 'stock', at: 'middle', feature: '', off_mm: 0, by: '' }
const USUAL: Record<string, Taken> = {
  x: MIDDLE,
  y: MIDDLE,
  z: { ...MIDDLE, of: 'part', at: 'high' },
}

function AxisRow({
  axis,
  taken,
  change,
  set,
}: {
  axis: Axis
  taken: Taken
  change: (fields: Fields) => Promise<unknown>
  set: (fields: Fields) => void
}) {
  const { system } = useUnits()
  const on = `zero.${axis.axis}`
  const letter = axis.axis.toUpperCase()
  // an end where it does not say which counts as its middle
  const now = name({ ...taken, at: ENDED.has(taken.of) ? taken.at : 'middle' })
  const place = (key: string): Place => axis.choices.find((each) => name(each) === key)!
  const said = axis.choices.map((each) => ({
    value: name(each),
    label: fill(each.text, each.values, system),
  }))
  const known = said.some((each) => each.value === now)
  return (
    <div className="grid grid-cols-[262px_144px_1fr] items-center gap-x-3">
      <Choice
        label={letter}
        value={now}
        wide="w-60"
        options={known ? said : [...said, { value: now, label: 'what is not there' }]}
        onChange={(key) => {
          const { of, at, feature } = place(key)
          set({ [on]: { of, at, feature, off_mm: 0, by: '' } })
        }}
      />
      <NumberField
        label={`${letter} off`}
        value={taken.off_mm}
        quantity="size"
        onCommit={(off) => change({ [`${on}.off_mm`]: off ?? 0 })}
      />
      <span className="flex items-center gap-1.5">
        <Choice
          label={`${letter} by`}
          labelled={false}
          value={axis.picked}
          wide="w-40"
          options={axis.ways.map(({ by, words }) => ({ value: by, label: words }))}
          onChange={(by) => set({ [`${on}.by`]: by })}
        />
        <span className="text-ink-2">
          ±<Figure value={axis.within_mm} quantity="size" />
        </span>
      </span>
    </div>
  )
}

const ENDED = new Set(['stock', 'part'])
