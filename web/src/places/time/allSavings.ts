import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask } from '../../api/client'

const EVERY_MS = 1000

// What the worker found of all that might save time: it goes on when the page is left.
export function useAllSavings(plan: number, revision: number) {
  const cache = useQueryClient()
  const queryKey = ['all savings', plan, revision]
  const path = { params: { path: { id: plan } } }
  const { data } = useQuery({
    queryKey,
    queryFn: () => ask(api.GET('/api/plans/{id}/savings/all', path)),
    refetchInterval: ({ state }) => (isGoing(state.data?.task?.state) ? EVERY_MS : false),
  })
  const again = () => void cache.invalidateQueries({ queryKey })
  const begin = useMutation({
    mutationFn: () => ask(api.POST('/api/plans/{id}/savings/all', path)),
    onSuccess: again,
  })
  const stop = useMutation({
    mutationFn: (id: number) =>
      ask(api.POST('/api/tasks/{id}/cancel', { params: { path: { id } } })),
    onSuccess: again,
  })
  const task = data?.task ?? null
  const current = data && !data.stale ? data : null
  return {
    found: current,
    going: current && task && isGoing(task.state) ? task : null,
    problem:
      begin.error?.message ?? (current && task?.state === 'failed' ? task.message : undefined),
    begin: () => begin.mutate(),
    stop: () => task && stop.mutate(task.id),
  }
}

const isGoing = (state?: string) => state === 'waiting' || state === 'working'
