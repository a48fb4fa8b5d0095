import { useRef, useState } from 'react'
import { type Schemas, uploadFile } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Figure } from '../../ui/Figure'
import { NumberField } from '../../ui/NumberField'

type Read = Schemas['DrawnOut']
type Props = {
  on: Record<string, unknown>
  as: 'drawn' | 'area' // lines that are followed, or what closed ones go round
  change: (fields: Record<string, unknown>) => Promise<unknown>
}
const KEPT = {
  drawn: ['x_mm', 'y_mm', 'scale', 'angle_deg', 'top_mm', 'tool_side'],
  area: ['x_mm', 'y_mm', 'scale', 'angle_deg', 'top_mm', 'depth_mm'],
}
const MEET_MM = 0.05
const INCH_MM = 25.4
const MOST_APART_MM = 5

// Lines of a DXF or SVG file as the place of an operation: read, told what was found, then placed by the fields
// beside it. What was typed before comes back with undo.
export function Drawn({ on, as, change }: Props) {
  const [reading, setReading] = useState(false)
  const [read, setRead] = useState<Read | null>(null)
  const [problem, setProblem] = useState('')
  const picker = useRef<HTMLInputElement>(null)
  const [meet, setMeet] = useState(MEET_MM)
  const lines = on.kind === as ? (on.lines as number[][][]) : null
  const take = async (file: File | undefined) => {
    if (!file) return
    setProblem('')
    setReading(true)
    try {
      const found = await uploadFile<Read>(`/api/lines?meet_mm=${meet}`, file)
      const kept = Object.fromEntries(
        KEPT[as].filter((name) => on[name] !== undefined).map((name) => [name, on[name]]),
      )
      await change({ on: { ...kept, kind: as, file: found.file, lines: found.lines } })
      setRead(found)
    } catch (error) {
      setProblem((error as Error).message)
    } finally {
      setReading(false)
    }
  }
  return (
    <div className="flex w-full flex-wrap items-baseline gap-x-4 gap-y-1">
      {lines && (
        <span>
          <span className="font-semibold">{String(on.file) || 'Drawn lines'}</span>{' '}
          <span className="text-ink-2">
            <Counted count={lines.length} one="line" /> with{' '}
            <Counted count={lines.reduce((sum, line) => sum + line.length, 0)} one="corner" />,{' '}
            <span className="n">{lines.filter(closed).length}</span> closed
          </span>
        </span>
      )}
      <button className="link" disabled={reading} onClick={() => picker.current?.click()}>
        {reading ? 'reading …' : lines ? 'Read another DXF or SVG' : 'Read DXF or SVG'}
      </button>
      <NumberField
        label="joining ends up to"
        quantity="size"
        value={meet}
        onCommit={(value) => {
          setMeet(Math.min(Math.max(value ?? MEET_MM, 0), MOST_APART_MM))
          return Promise.resolve()
        }}
      />
      <input
        ref={picker}
        type="file"
        accept=".dxf,.svg"
        className="sr-only"
        aria-label="Drawing of lines"
        tabIndex={-1}
        onChange={(event) => (void take(event.target.files?.[0]), (event.target.value = ''))}
      />
      {read && lines && <Told read={read} scale={Number(on.scale)} change={change} />}
      {problem && (
        <p role="alert" className="w-full border-l-2 border-red pl-2">
          {problem} The lines stay as they were.
        </p>
      )}
    </div>
  )
}

const closed = (line: number[][]) => {
  const [first, last] = [line[0]!, line[line.length - 1]!]
  return first[0] === last[0] && first[1] === last[1]
}

function Counted({ count, one }: { count: number; one: string }) {
  return (
    <>
      <span className="n">{count}</span> {count === 1 ? one : `${one}s`}
    </>
  )
}

// What reading the file decided, so that nobody has to guess.
function Told({ read, scale, change }: { read: Read; scale: number; change: Props['change'] }) {
  const left = Object.entries(read.left_out)
  return (
    <p role="status" className="w-full text-small text-ink-2">
      {read.unit_said ? `Drawn in ${read.unit}.` : `The file names no unit; read in ${read.unit}.`}
      {!read.unit_said && scale !== INCH_MM && read.unit === 'mm' && (
        <button className="link ml-2" onClick={() => void quietly(change({ 'on.scale': INCH_MM }))}>
          It was drawn in inches
        </button>
      )}
      {read.widest_gap_mm > 0 && (
        <>
          {' '}
          Ends up to <Figure value={read.widest_gap_mm} quantity="size" /> apart were joined.
        </>
      )}
      {left.length > 0 &&
        ` Left out: ${left.map(([kind, count]) => `${count} ${kind}`).join(', ')}.`}
    </p>
  )
}
