import { api, ask } from '../../api/client'
import { useWorked } from '../../api/worked'

// What the worker found of all that might save time.
export function useAllSavings(plan: number, revision: number) {
  const path = { params: { path: { id: plan } } }
  return useWorked(
    ['all savings', plan, revision],
    () => ask(api.GET('/api/plans/{id}/savings/all', path)),
    () => ask(api.POST('/api/plans/{id}/savings/all', path)),
  )
}
