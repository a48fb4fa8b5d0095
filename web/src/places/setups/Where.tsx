import { useUnits } from '../../app/units'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { size, unit } from '../../ui/format'
import { holeAt } from '../part/feature'
import { placesOf, written } from '../../ui/points'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'
import { Drawn } from './Drawn'
import { useKind } from './forms'

type Feature = {
  id: string
  kind: string
  diameter_mm?: number
  length_mm?: number
  point?: number[]
  depth_mm?: number
  through?: boolean
  opens?: string | string[]
}
type Change = (fields: Record<string, unknown>) => Promise<unknown>
type Props = {
  planned: Record<string, unknown>
  on: Record<string, unknown>
  change: Change
}
type Places = {
  label: string
  field: string
  least?: number
  places: number[][]
  wide: string
  store: (places: number[][]) => Promise<unknown>
}

// Places in plan or along a contour, typed and shown in the unit of the page.
function PlacesField({ label, field, least = 1, places, wide, store }: Places) {
  const { system } = useUnits()
  const read = (typed: string) => {
    const found = placesOf(typed, field, system, least)
    return found.ok ? store(found.value) : Promise.reject(new Error(found.sentence))
  }
  return (
    <TextField
      label={`${label}, ${unit('length', system)}`}
      value={written(places, system)}
      wide={wide}
      onCommit={read}
    />
  )
}

// Lines in plan: corners parted by ; and lines by |.
function Lines({ lines, change }: { lines: number[][][]; change: Change }) {
  const { system } = useUnits()
  const read = (typed: string) => {
    const found = typed.split('|').map((line) => placesOf(line, 'Lines', system, 2))
    const wrong = found.find((line) => !line.ok)
    if (wrong && !wrong.ok) return Promise.reject(new Error(`${wrong.sentence} | parts two lines.`))
    return change({ 'on.at_mm': found.map((line) => (line.ok ? line.value : [])) })
  }
  return (
    <TextField
      label={`Corners X, Y; … ${unit('length', system)}`}
      value={lines.map((line) => written(line, system)).join(' | ')}
      wide="w-64 n"
      onCommit={read}
    />
  )
}

// Where an open hole stands for the tool to go down into; empty is the middle of the pocket.
function EntryHole({ at, change }: { at: number[] | null; change: Change }) {
  const { system } = useUnits()
  const read = (typed: string) => {
    if (!typed.trim()) return change({ hole_at_mm: null })
    const found = placesOf(typed, 'Hole at', system)
    return found.ok && found.value.length === 1
      ? change({ hole_at_mm: found.value[0] })
      : Promise.reject(
          new Error(found.ok ? 'Hole at: one place X, Y; empty is the middle.' : found.sentence),
        )
  }
  return (
    <TextField
      label={`Hole at X, Y, ${unit('length', system)}`}
      value={at ? written([at], system) : ''}
      placeholder="the middle"
      wide="w-28 n"
      onCommit={read}
    />
  )
}

// How deep and wide a slot along lines is, and whether it runs on them or beside them.
function SlotAlong({ planned, change }: { planned: Record<string, unknown>; change: Change }) {
  return (
    <>
      <NumberField
        label="Depth"
        value={(planned.depth_mm as number | null) ?? null}
        quantity="length"
        onCommit={(value) => change({ depth_mm: value })}
      />
      {(planned.cuts ?? 'width') !== 'width' && (
        <NumberField
          label="Wide"
          value={(planned.width_mm as number | null) ?? null}
          quantity="length"
          onCommit={(value) => change({ width_mm: value })}
        />
      )}
      <Choice
        label="Runs"
        value={String(planned.runs ?? 'on')}
        options={[
          { value: 'on', label: 'on the line' },
          { value: 'beside', label: 'beside it, on the tool’s side' },
        ]}
        onChange={(runs) => void quietly(change({ runs }))}
      />
    </>
  )
}

// Which of the part's holes an operation takes, where its typed positions are, or the lines of a file.
export function Where(props: Props) {
  const places = useKind(String(props.planned.kind))?.places ?? []
  const on = String(props.on.kind)
  const follows = places.includes('drawn') && on !== 'top'
  const clears = places.includes('area') && ['rectangle', 'area'].includes(on)
  return (
    <>
      <Typed {...props} />
      {(follows || clears) && (
        <Drawn on={props.on} as={follows ? 'drawn' : 'area'} change={props.change} />
      )}
    </>
  )
}

function Typed({ planned, on, change }: Props) {
  const { answer } = useFrame()
  const { system } = useUnits()
  if (on.kind === 'points')
    return (
      <PlacesField
        label="Positions X, Y; …"
        field="Positions"
        places={on.at_mm as number[][]}
        wide="w-64 n"
        store={(places) => change({ 'on.at_mm': places })}
      />
    )
  if (planned.enter === 'hole')
    return <EntryHole at={planned.hole_at_mm as number[] | null} change={change} />
  if (planned.kind === 'slot' && (on.kind === 'lines' || on.kind === 'drawn'))
    return (
      <>
        {on.kind === 'lines' && <Lines lines={on.at_mm as number[][][]} change={change} />}
        <SlotAlong planned={planned} change={change} />
      </>
    )
  if (on.kind === 'lines') return <Lines lines={on.at_mm as number[][][]} change={change} />
  if (on.kind === 'profile')
    return (
      <PlacesField
        label="Contour Z, Ø; … from the free end to the chuck"
        field="Contour"
        least={2}
        places={on.at_mm as number[][]}
        wide="w-80 n"
        store={(places) => change({ 'on.at_mm': places })}
      />
    )
  if (on.kind === 'text')
    return (
      <TextField
        label="Text"
        value={String(on.text)}
        wide="w-48 n"
        max={60}
        onCommit={(text) => change({ 'on.text': text })}
      />
    )
  if (on.kind !== 'features') return null
  const ids = on.ids as string[]
  const features = answer.features as Feature[]
  const mine = features.find((each) => each.id === ids[0])
  if (mine?.through && mine.kind === 'pocket')
    return (
      <NumberField
        label="Past the bottom"
        value={Number(planned.past_mm ?? 0.5)}
        quantity="length"
        onCommit={(value) => change({ past_mm: value ?? 0 })}
      />
    )
  if (!mine || mine.kind !== 'hole') return null
  const alike = features.filter(
    (each) =>
      each.kind === 'hole' && Math.abs((each.diameter_mm ?? 0) - (mine.diameter_mm ?? 0)) < 1e-3,
  )
  if (alike.length < 2) return null
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="float-left mr-1.5 text-ink-2">Holes</legend>
      {alike.map((each) => {
        const taken = ids.includes(each.id)
        return (
          <button
            key={each.id}
            role="checkbox"
            aria-checked={taken}
            className={`n min-h-6 border px-1.5 text-small ${taken ? 'border-ink bg-mark-wash' : 'border-hair-strong text-ink-3'}`}
            onClick={() =>
              void quietly(
                change({
                  'on.ids': taken ? ids.filter((id) => id !== each.id) : [...ids, each.id],
                }),
              )
            }
          >
            {taken ? '✓ ' : ''}
            {holeAt(each).side && `${holeAt(each).side} `}
            {holeAt(each)
              .at.map((value) => size(value, system))
              .join(', ')}
          </button>
        )
      })}
    </fieldset>
  )
}
