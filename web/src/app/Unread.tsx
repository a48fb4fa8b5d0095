import { type QueryCache, useQueryClient } from '@tanstack/react-query'
import { useCallback, useSyncExternalStore } from 'react'

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: { shown?: boolean }
  }
}

// What is on the page, was asked for and did not come, and is not told in its own place.
const unread = (cache: QueryCache) =>
  cache
    .getAll()
    .filter(
      (query) =>
        query.state.status === 'error' && query.getObserversCount() > 0 && !query.meta?.shown,
    )

// A line over the page for whatever could not be read of it: nothing stays empty without a word.
export function Unread() {
  const client = useQueryClient()
  const cache = client.getQueryCache()
  const subscribe = useCallback((changed: () => void) => cache.subscribe(changed), [cache])
  const told = useSyncExternalStore(subscribe, () =>
    [...new Set(unread(cache).map((query) => query.state.error?.message ?? ''))].join(' '),
  )
  if (!told) return null
  const again = () =>
    unread(cache).forEach((query) => void client.refetchQueries({ queryKey: query.queryKey }))
  return (
    <p
      role="alert"
      className="flex items-baseline gap-4 border-b border-red bg-surface px-4 py-1 text-red-edge"
    >
      <span>Something of this page could not be read. {told}</span>
      <button className="press-2 text-ink" onClick={again}>
        Ask again
      </button>
    </p>
  )
}
