import { useRef, useState } from 'react'
import { quietly } from '../../api/planSession'
import { NumberField } from '../../ui/NumberField'
import { useFrame } from '../frame'
import { StepPicker, StepProgress } from './StepProgress'
import type { PartFile } from './useStepFile'

// The part's solid: a STEP file, sent and read with progress; or a block by its size.
export function Solid({ file }: { file: PartFile }) {
  const { answer, session } = useFrame()
  const [over, setOver] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const part = answer.plan.part
  const size = part?.size_mm ?? [100, 60, 20]
  const setPart = (fields: Record<string, unknown>) =>
    session.edit((plan) => [{ do: 'set_part', part: { ...plan.part, ...fields } }])
  return (
    <div
      className={over ? 'outline-2 outline-dashed outline-brass' : ''}
      onDragOver={(event) => (event.preventDefault(), setOver(true))}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        void file.send(event.dataTransfer.files[0])
      }}
    >
      <div className="flex flex-wrap items-center gap-3">
        {part?.geometry ? (
          <span>
            From <b className="n">{part.file_name}</b>
          </span>
        ) : (
          <span>A block of the size below, or a STEP file:</span>
        )}
        <button
          className={part?.geometry ? 'press-2' : 'press'}
          disabled={!!(file.sent ?? file.running)}
          onClick={() => picker.current?.click()}
        >
          {part?.geometry ? 'Read another STEP file' : 'Choose a STEP file'}
        </button>
        <StepPicker file={file} label="STEP file" picker={picker} />
        {part?.geometry && (
          <button
            className="link"
            onClick={() => void quietly(setPart({ geometry: '', file_name: '', turned_deg: 0 }))}
          >
            Use a block instead
          </button>
        )}
        <span className="text-small text-ink-3">
          AP203, AP214 or AP242, up to 50 MB; drop it here
        </span>
      </div>
      <StepProgress file={file} stays="The part stays as it was." />
      {part?.geometry && (part.turned_deg ?? 0) > 0 && (
        <p className="mt-1.5 text-small text-ink-2">
          Turned by <span className="n">{Number(part.turned_deg?.toFixed(2))}°</span> from how its
          file has it, to lie straight.{' '}
          <button className="link" onClick={() => void file.lay('file')}>
            Leave it as in the file
          </button>
        </p>
      )}
      {!part?.geometry && (
        <div className="mt-2 flex items-center gap-4">
          {['X', 'Y', 'Z'].map((name, k) => (
            <NumberField
              key={name}
              label={name}
              value={size[k] ?? 0}
              quantity="length"
              onCommit={(value) =>
                setPart({ size_mm: size.map((old, i) => (i === k ? value : old)) })
              }
            />
          ))}
        </div>
      )}
    </div>
  )
}
