import type { ReactNode } from 'react'

// Empty, loading and failed: each says what is the case and what to do.
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-md px-6 py-10 text-ink-2">
      <p className="mb-1 text-head font-semibold text-ink">{title}</p>
      <div>{children}</div>
    </div>
  )
}

// In a line of its own, where only a part of a page could not be answered; why, where that is known.
export function AskAgain({ again, error }: { again: () => void; error?: Error }) {
  return (
    <p role="alert" className={error && 'text-ink-2'}>
      {error?.message ?? 'This could not be worked out.'}{' '}
      <button className="link" onClick={again}>
        Ask again
      </button>
    </p>
  )
}

export function Loading({ what }: { what: string }) {
  return (
    <div role="status" className="px-6 py-10 text-ink-2">
      Loading {what} …
    </div>
  )
}

export function Failed({ error, again }: { error: unknown; again?: () => void }) {
  return (
    <div role="alert" className="mx-auto max-w-md px-6 py-10">
      <p className="mb-2 text-head font-semibold">This could not be loaded</p>
      <p className="mb-3 text-ink-2">{error instanceof Error ? error.message : String(error)}</p>
      {again && (
        <button className="press-2" onClick={again}>
          Try again
        </button>
      )}
    </div>
  )
}
