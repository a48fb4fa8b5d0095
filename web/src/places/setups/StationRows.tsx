import type { Edit, PlannedStation, StationResult } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { Holding } from './Holding'
import { Raised } from './Raised'
import { ZeroRows } from './ZeroRows'

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
        {!lathe && <Raised planned={planned} change={change} set={set} />}
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
      <span className="self-start pt-1 text-ink-2">Zero</span>
      <ZeroRows planned={planned} lathe={lathe} offsets={offsets} change={change} set={set} />
    </>
  )
}
