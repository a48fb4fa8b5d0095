import type { Edit, PlannedStation, StationResult } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { Holding } from './Holding'

const UPS = [
  ['+z', 'Top'],
  ['-z', 'Bottom'],
  ['+x', 'Right'],
  ['-x', 'Left'],
  ['+y', 'Back'],
  ['-y', 'Front'],
].map(([value, label]) => ({ value: value!, label: label! }))

export const ROW = 'grid grid-cols-[92px_1fr] items-center gap-y-1.5 py-1'
export const CELLS = 'flex flex-wrap items-center gap-x-4 gap-y-1.5'

type Props = {
  planned: PlannedStation
  station: StationResult
  lathe: boolean
  machine?: Record<string, unknown>
}
type Fields = Record<string, unknown>

// How the part lies at a station, how it is held there, and where zero is.
export function StationRows({ planned, station, lathe, machine }: Props) {
  const { session } = useFrame()
  const change = (fields: Fields) =>
    session.edit([{ do: 'change', on: `station:${planned.id}`, fields }])
  const set = (fields: Fields) =>
    session.send([{ do: 'change', on: `station:${planned.id}`, fields }])
  const quiet = (edit: Edit) => session.send([edit])
  const flip = (about: 'x' | 'y') => quiet({ do: 'flip_station', station: planned.id, about })
  const offsets = (machine?.work_offsets as string[] | undefined) ?? ['G54']
  const places = (machine?.places as { id: string; kind: string }[] | undefined) ?? []
  return (
    <>
      <span className="text-ink-2">Lies</span>
      <div className={CELLS}>
        {places.length > 1 && (
          <Choice
            label="In"
            value={planned.place || places[0]!.id}
            options={places.map(({ id, kind }) => ({
              value: id,
              label: kind === 'table' ? `on the ${id}` : id,
            }))}
            onChange={(place) => set({ place })}
          />
        )}
        <Choice
          label={lathe ? 'Out' : 'Up'}
          value={planned.orientation?.up ?? '+z'}
          options={UPS}
          onChange={(up) => set({ 'orientation.up': up })}
        />
        <Choice
          label="Turned"
          value={planned.orientation?.turn ?? 0}
          options={[0, 90, 180, 270].map((value) => ({ value, label: `${value}°` }))}
          onChange={(turn) => set({ 'orientation.turn': turn })}
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
      <span className="text-ink-2">Held by</span>
      <div className={CELLS}>
        <Holding
          planned={planned}
          station={station}
          change={change}
          hold={(item) => quiet({ do: 'hold', station: planned.id, item })}
        />
      </div>
      <span className="text-ink-2">Zero</span>
      <Zero planned={planned} lathe={lathe} offsets={offsets} change={change} set={set} />
    </>
  )
}

type ZeroProps = Omit<Props, 'station' | 'machine'> & {
  offsets: string[]
  change: (fields: Fields) => Promise<unknown>
  set: (fields: Fields) => void
}
type Place = NonNullable<PlannedStation['zero']>
const USUAL: Place = {
  of: 'stock',
  x: 'middle',
  y: 'middle',
  z: 'top',
  z_of: 'part',
  hole: '',
  reason: '',
}

function Zero({ planned, lathe, offsets, change, set }: ZeroProps) {
  const zero = planned.zero ?? USUAL
  return (
    <div className={CELLS}>
      <Choice
        label="Work offset"
        labelled={false}
        value={planned.work_offset ?? 'G54'}
        options={offsets.map((each) => ({ value: each, label: <span className="n">{each}</span> }))}
        onChange={(work_offset) => set({ work_offset })}
      />
      {lathe ? (
        <span className="text-ink-2">X on the spindle’s axis</span>
      ) : (
        <Sideways zero={zero} set={set} />
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
        onChange={(z) => set({ 'zero.z': z })}
      />
      <Choice
        label="of"
        value={zero.z_of ?? 'part'}
        options={[
          { value: 'part', label: 'the finished part' },
          { value: 'stock', label: 'the blank' },
        ]}
        onChange={(z_of) => set({ 'zero.z_of': z_of })}
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
  )
}

type Hole = { id: string; kind: string; diameter_mm?: number; point?: number[] }

function Sideways({ zero, set }: { zero: Place; set: (fields: Fields) => void }) {
  const { answer } = useFrame()
  const holes = (answer.features as Hole[]).filter((each) => each.kind === 'hole')
  return (
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
          set(
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
            onChange={(x) => set({ 'zero.x': x })}
          />
          <Choice
            label="Y"
            value={zero.y ?? 'middle'}
            options={[
              { value: 'low', label: 'front' },
              { value: 'middle', label: 'middle' },
              { value: 'high', label: 'back' },
            ]}
            onChange={(y) => set({ 'zero.y': y })}
          />
        </>
      )}
    </>
  )
}
