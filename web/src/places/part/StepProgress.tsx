import type { StepFile } from './useStepFile'

// How far a STEP file is, what is wrong with it, and which of its solids is meant.
export function StepProgress({ file, stays }: { file: StepFile; stays: string }) {
  const { sent, running } = file
  const share = sent ? sent.share * 0.3 : 0.3 + 0.7 * (running?.progress ?? 0)
  return (
    <>
      {(sent ?? running) && (
        <div role="status" className="mt-2 flex items-center gap-3">
          <span className="h-1.5 w-56 border border-hair-strong">
            <span className="block h-full bg-mark" style={{ width: `${100 * share}%` }} />
          </span>
          <span className="text-ink-2">
            {sent ? `sending ${sent.name}` : running?.message || 'waiting for the reader'} …
          </span>
          {file.task !== null && (
            <button className="link" onClick={file.stop}>
              Stop
            </button>
          )}
        </div>
      )}
      {file.problem && (
        <p role="alert" className="mt-2 border-l-2 border-red pl-2">
          {file.problem} {stays}
        </p>
      )}
      {file.sizes && (
        <div className="mt-2 flex flex-wrap gap-2">
          {file.sizes.map((each, k) => (
            <button key={k} className="press-2" onClick={() => void file.choose(k)}>
              Solid <span className="n">{k + 1}</span>:{' '}
              <span className="n">{each.join(' × ')} mm</span>
            </button>
          ))}
        </div>
      )}
    </>
  )
}

// The file itself, picked by a hidden field that a press of something else opens.
export function StepPicker({
  file,
  label,
  picker,
}: {
  file: StepFile
  label: string
  picker: React.RefObject<HTMLInputElement | null>
}) {
  return (
    <input
      ref={picker}
      type="file"
      accept=".step,.stp,.STEP,.STP"
      className="sr-only"
      aria-label={label}
      tabIndex={-1}
      onChange={(event) => (void file.send(event.target.files?.[0]), (event.target.value = ''))}
    />
  )
}
