import type { OperationResult } from '../../api/client'
import { useUnits } from '../../app/units'
import { size } from '../../ui/format'
import { useFrame } from '../JobFrame'
import { TextField } from '../../ui/TextField'

type Feature = { id: string; kind: string; diameter_mm?: number; length_mm?: number; point?: number[]; depth_mm?: number; opens?: string | string[] }
type Props = { op: OperationResult; planned: Record<string, unknown>; on: Record<string, unknown>; change: (fields: Record<string, unknown>) => Promise<unknown> }

const corner = (typed: string) => typed.split(',').map((part) => Number(part.trim()))

// Lines in plan: corners parted by ; and lines by |.
function Lines({ lines, change }: { lines: number[][][]; change: Props['change'] }) {
  const text = lines.map((line) => line.map((each) => each.join(', ')).join('; ')).join(' | ')
  const read = (typed: string) => {
    const found = typed.split('|').map((line) => line.split(';').map(corner))
    if (found.some((line) => line.length < 2 || line.some((each) => each.length !== 2 || each.some((value) => !Number.isFinite(value)))))
      return Promise.reject(new Error('Lines: write two corners or more, X, Y in mm, such as -40, 0; 40, 0 with | between lines.'))
    return change({ 'on.at_mm': found })
  }
  return <TextField label="Corners X, Y; …" value={text} wide="w-64 n" onCommit={read} />
}

// Corners of a turned contour from the free end to the chuck.
function Contour({ corners, change }: { corners: number[][]; change: Props['change'] }) {
  const read = (typed: string) => {
    const found = typed.split(';').filter((part) => part.trim()).map(corner)
    if (found.length < 2 || found.some((each) => each.length !== 2 || each.some((value) => !Number.isFinite(value))))
      return Promise.reject(new Error('Contour: write two corners or more, Z, Ø in mm from the free end to the chuck, such as 0, 30; -34, 30; -34, 48.'))
    return change({ 'on.at_mm': found })
  }
  return <TextField label="Contour Z, Ø; …" value={corners.map((each) => each.join(', ')).join('; ')} wide="w-80 n" onCommit={read} />
}

// Where an open hole stands for the tool to go down into; empty is the middle of the pocket.
function EntryHole({ at, change }: { at: number[] | null; change: Props['change'] }) {
  const read = (typed: string) => {
    const spot = corner(typed)
    if (typed.trim() && (spot.length !== 2 || spot.some((value) => !Number.isFinite(value)))) return Promise.reject(new Error('Hole at: write X, Y in mm, such as 10, 0; empty is the middle.'))
    return change({ hole_at_mm: typed.trim() ? spot : null })
  }
  return <TextField label="Hole at X, Y" value={at ? at.join(', ') : ''} placeholder="the middle" wide="w-28 n" onCommit={read} />
}

// Which of the part's holes an operation takes, or where its typed positions are.
export function Where({ op, planned, on, change }: Props) {
  const { answer } = useFrame()
  const { system } = useUnits()
  if (on.kind === 'points') {
    const text = (on.at_mm as number[][]).map((each) => each.join(', ')).join('; ')
    const read = (typed: string) => {
      const points = typed.split(';').map((each) => each.split(',').map((part) => Number(part.trim())))
      if (points.some((each) => each.length !== 2 || each.some((value) => !Number.isFinite(value)))) return Promise.reject(new Error('Positions: write X, Y in mm, points parted by ;  such as 10, 20; 30, 20.'))
      return change({ 'on.at_mm': points })
    }
    return <TextField label="Positions X, Y; …" value={text} wide="w-64 n" onCommit={read} />
  }
  if (op.kind === 'rough_pocket' && planned.enter === 'hole') return <EntryHole at={planned.hole_at_mm as number[] | null} change={change} />
  if (on.kind === 'lines') return <Lines lines={on.at_mm as number[][][]} change={change} />
  if (on.kind === 'profile') return <Contour corners={on.at_mm as number[][]} change={change} />
  if (on.kind === 'text') return <TextField label="Text" value={String(on.text)} wide="w-48 n" max={60} onCommit={(text) => change({ 'on.text': text })} />
  if (on.kind !== 'features') return null
  const ids = on.ids as string[]
  const features = answer.features as Feature[]
  const mine = features.find((each) => each.id === ids[0])
  if (!mine || mine.kind !== 'hole') return null
  const alike = features.filter((each) => each.kind === 'hole' && Math.abs((each.diameter_mm ?? 0) - (mine.diameter_mm ?? 0)) < 1e-3)
  if (alike.length < 2) return null
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="float-left mr-1.5 text-ink-2">Holes</legend>
      {alike.map((each) => {
        const taken = ids.includes(each.id)
        return (
          <button
            key={each.id} role="checkbox" aria-checked={taken} className={`n border px-1.5 text-small leading-5 ${taken ? 'border-ink bg-mark-wash' : 'border-hair-strong text-ink-3'}`}
            onClick={() => void change({ 'on.ids': taken ? ids.filter((id) => id !== each.id) : [...ids, each.id] }).catch(() => {})}
          >
            {taken ? '✓ ' : ''}
            {each.point?.slice(0, 2).map((value) => size(value, system)).join(', ')}
          </button>
        )
      })}
    </fieldset>
  )
}
