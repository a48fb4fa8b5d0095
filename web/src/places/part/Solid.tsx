import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useLocation } from 'react-router'
import { api, ask, type Task, upload } from '../../api/client'
import { useTask } from '../../api/hooks'
import { NumberField } from '../../ui/NumberField'
import { useFrame } from '../JobFrame'

// The part's solid: a STEP file, sent and read with progress; or a block by its size.
export function Solid() {
  const { answer, session } = useFrame()
  const cache = useQueryClient()
  const [sent, setSent] = useState<{ name: string; share: number } | null>(null)
  const begun = useLocation().state as { reading?: number; refused?: string } | null // with the job itself
  const [task, setTask] = useState<number | null>(begun?.reading ?? null)
  const [problem, setProblem] = useState(begun?.refused ?? '')
  const [sizes, setSizes] = useState<number[][] | null>(null)
  const [asked, setAsked] = useState<number | null>(null)
  const [over, setOver] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const running = useTask(task, (ended: Task) => {
    setTask(null)
    if (ended.state === 'done') void cache.invalidateQueries({ queryKey: ['plan', answer.id] })
    else if (Array.isArray(ended.result.sizes) && ended.result.sizes.length > 1) {
      setSizes(ended.result.sizes as number[][])
      setAsked(ended.id)
      setProblem(ended.message)
    } else setProblem(ended.message)
    void cache.invalidateQueries({ queryKey: ['jobs'] })
  })
  const send = async (file: File | undefined) => {
    if (!file) return
    setProblem('')
    setSizes(null)
    setSent({ name: file.name, share: 0 })
    try {
      setTask(
        (
          await upload(`/api/plans/${answer.id}/step`, file, (share) =>
            setSent({ name: file.name, share }),
          )
        ).id,
      )
    } catch (error) {
      setProblem((error as Error).message)
    }
    setSent(null)
  }
  const choose = async (solid: number) => {
    setSizes(null)
    setProblem('')
    if (asked !== null)
      setTask(
        (
          await ask(
            api.POST('/api/tasks/{id}/solid', { params: { path: { id: asked } }, body: { solid } }),
          )
        ).id,
      )
  }
  const part = answer.plan.part
  const size = part?.size_mm ?? [100, 60, 20]
  const busy = sent ?? running
  return (
    <div
      className={over ? 'outline-2 outline-dashed outline-brass' : ''}
      onDragOver={(event) => (event.preventDefault(), setOver(true))}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        void send(event.dataTransfer.files[0])
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
          disabled={!!busy}
          onClick={() => picker.current?.click()}
        >
          {part?.geometry ? 'Read another STEP file' : 'Choose a STEP file'}
        </button>
        <input
          ref={picker}
          type="file"
          accept=".step,.stp,.STEP,.STP"
          className="sr-only"
          aria-label="STEP file"
          tabIndex={-1}
          onChange={(event) => (void send(event.target.files?.[0]), (event.target.value = ''))}
        />
        {part?.geometry && (
          <button
            className="link"
            onClick={() =>
              void session
                .edit((plan) => [
                  { do: 'set_part', part: { ...plan.part, geometry: '', file_name: '' } },
                ])
                .catch(() => {})
            }
          >
            Use a block instead
          </button>
        )}
        <span className="text-small text-ink-3">
          AP203, AP214 or AP242, up to 50 MB; drop it here
        </span>
      </div>
      {busy && (
        <div role="status" className="mt-2 flex items-center gap-3">
          <span className="h-1.5 w-56 border border-hair-strong">
            <span
              className="block h-full bg-mark"
              style={{
                width: `${100 * (sent ? sent.share * 0.3 : 0.3 + 0.7 * (running?.progress ?? 0))}%`,
              }}
            />
          </span>
          <span className="text-ink-2">
            {sent ? `sending ${sent.name}` : running?.message || 'waiting for the reader'} …
          </span>
          {task !== null && (
            <button
              className="link"
              onClick={() =>
                void ask(api.POST('/api/tasks/{id}/cancel', { params: { path: { id: task } } }))
              }
            >
              Stop
            </button>
          )}
        </div>
      )}
      {problem && (
        <p role="alert" className="mt-2 border-l-2 border-red pl-2">
          {problem} The part stays as it was.
        </p>
      )}
      {sizes && (
        <div className="mt-2 flex flex-wrap gap-2">
          {sizes.map((each, k) => (
            <button key={k} className="press-2" onClick={() => void choose(k)}>
              Solid <span className="n">{k + 1}</span>:{' '}
              <span className="n">{each.join(' × ')} mm</span>
            </button>
          ))}
        </div>
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
                session.edit((plan) => [
                  {
                    do: 'set_part',
                    part: {
                      ...plan.part,
                      size_mm: (plan.part?.size_mm ?? size).map((old, i) =>
                        i === k ? value : old,
                      ),
                    },
                  },
                ])
              }
            />
          ))}
        </div>
      )}
    </div>
  )
}
