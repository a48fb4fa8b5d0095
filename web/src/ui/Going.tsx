import type { components } from '../api/schema'

// How far the worker is, in what, and a way to stop it.
export function Going({
  task,
  onStop,
}: {
  task: components['schemas']['TaskOut']
  onStop: () => void
}) {
  return (
    <div className="mt-3" role="status">
      <div
        role="progressbar"
        aria-label="How far"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(100 * task.progress)}
        className="h-1.5 w-full bg-hair"
      >
        <div className="h-full bg-mark" style={{ width: `${100 * task.progress}%` }} />
      </div>
      <p className="flex items-baseline gap-2 text-small text-ink-2">
        {task.state === 'waiting' ? 'waits for its turn …' : `${task.message} …`}
        <button className="link ml-auto" onClick={onStop}>
          Stop
        </button>
      </p>
      <p className="text-small text-ink-3">It goes on when this page is left.</p>
    </div>
  )
}
