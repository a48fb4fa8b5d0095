import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask } from './client'
import type { components } from './schema'

const EVERY_MS = 1000

type Task = components['schemas']['TaskOut']
type Worked = { task: Task | null; stale: boolean }

export const isGoing = (task: Task | null | undefined): task is Task =>
  !!task && (task.state === 'waiting' || task.state === 'working')

export const stopTask = (id: number) =>
  ask(api.POST('/api/tasks/{id}/cancel', { params: { path: { id } } }))

// What the worker found of a question last; it goes on when the page is left. `data` is null where the plan
// was changed since, `known` as soon as it is known whether anything was asked.
export function useWorked<T extends Worked>(
  queryKey: unknown[],
  read: () => Promise<T>,
  start: () => Promise<unknown>,
) {
  const cache = useQueryClient()
  const { data } = useQuery({
    queryKey,
    queryFn: read,
    refetchInterval: ({ state }) => (isGoing(state.data?.task) ? EVERY_MS : false),
  })
  const onSuccess = () => void cache.invalidateQueries({ queryKey })
  const begin = useMutation({ mutationFn: start, onSuccess })
  const stop = useMutation({ mutationFn: stopTask, onSuccess })
  const current = data && !data.stale ? data : null
  const task = current?.task ?? null
  return {
    data: current,
    known: !!data,
    task,
    going: isGoing(task) ? task : null,
    problem: begin.error?.message ?? (task?.state === 'failed' ? task.message : undefined),
    begin: () => begin.mutate(),
    stop: () => task && stop.mutate(task.id),
  }
}
