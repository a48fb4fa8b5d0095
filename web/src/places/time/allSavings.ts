import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, ask } from '../../api/client'
import { useWorked } from '../../api/worked'

// What the worker found of all that might save time. Where there is more than the page has tried itself it begins
// before anybody asks, once for a revision that rests; who may not ask is refused, and nobody misses it.
export function useAllSavings(plan: number, revision: number, more: boolean) {
  const path = { params: { path: { id: plan } } }
  const queryKey = ['all savings', plan, revision]
  const cache = useQueryClient()
  useEffect(() => {
    if (more)
      void api
        .POST('/api/plans/{id}/savings/all/expected', { params: { path: { id: plan } } })
        .then(() => cache.invalidateQueries({ queryKey: ['all savings', plan, revision] }))
        .catch(() => undefined)
  }, [cache, plan, revision, more])
  return useWorked(
    queryKey,
    () => ask(api.GET('/api/plans/{id}/savings/all', path)),
    () => ask(api.POST('/api/plans/{id}/savings/all', path)),
  )
}
