import { useEffect } from 'react'
import { api, ask } from '../../api/client'
import { useWorked } from '../../api/worked'

// The worker learns a plan of which it may be asked all, so that what it finds is there soon. Who may not
// ask is refused, and nobody misses it.
export function useExpected(plan: number, revision: number, expected: boolean) {
  useEffect(() => {
    if (expected)
      api
        .POST('/api/plans/{id}/savings/all/expected', { params: { path: { id: plan } } })
        .catch(() => undefined)
  }, [plan, revision, expected])
}

// What the worker found of all that might save time.
export function useAllSavings(plan: number, revision: number) {
  const path = { params: { path: { id: plan } } }
  return useWorked(
    ['all savings', plan, revision],
    () => ask(api.GET('/api/plans/{id}/savings/all', path)),
    () => ask(api.POST('/api/plans/{id}/savings/all', path)),
  )
}
