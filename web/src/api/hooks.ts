import { keepPreviousData, type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { setUnits, type Units } from '../ui/entry'
import { type DisplayTable, setDisplay, type System } from '../ui/format'
import {
  api,
  ask,
  type CalculatorWords,
  type Evaluation,
  type PlanAnswer,
  type Task,
} from './client'
import { newerOf, sessionOf } from './planSession'

// Jobs a few letters are about, for the palette.
export const useJobsLike = (find: string) =>
  useQuery({
    queryKey: ['jobs', 'like', find],
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.GET('/api/jobs', { params: { query: { find, most: 8 } } })),
  })
const planQuery = (plan: number, cache: QueryClient) => ({
  queryKey: ['plan', plan],
  meta: { shown: true },
  queryFn: async () => {
    const asked = (await ask(
      api.GET('/api/plans/{id}', { params: { path: { id: plan } } }),
    )) as PlanAnswer
    return newerOf(cache.getQueryData<PlanAnswer>(['plan', plan]), asked)
  },
})

// The plan is asked for as soon as its job is known, not when the page around it stands.
export function useJob(number: string) {
  const cache = useQueryClient()
  return useQuery({
    queryKey: ['jobs', number],
    meta: { shown: true },
    queryFn: async () => {
      const job = await ask(api.GET('/api/jobs/{number}', { params: { path: { number } } }))
      if (!cache.getQueryData(['plan', job.plan]))
        void cache.prefetchQuery(planQuery(job.plan, cache))
      return job
    },
  })
}
export const useVariants = (number: string) =>
  useQuery({
    queryKey: ['jobs', number, 'variants'],
    refetchInterval: ({ state }) => (state.data?.some((each) => !each.answered) ? 2000 : false),
    queryFn: () => ask(api.GET('/api/jobs/{number}/variants', { params: { path: { number } } })),
  })
export const useLibrary = () =>
  useQuery({ queryKey: ['library'], queryFn: () => ask(api.GET('/api/library')) })
export const useReview = (plan: number) =>
  useQuery({
    queryKey: ['review', plan],
    meta: { shown: true },
    queryFn: () => ask(api.GET('/api/plans/{id}/review', { params: { path: { id: plan } } })),
  })

export function useWords() {
  return useQuery({
    queryKey: ['words'],
    meta: { shown: true },
    staleTime: Infinity,
    queryFn: async () => {
      const words = await ask(api.GET('/api/words'))
      setDisplay(words.display as DisplayTable)
      setUnits(words.units as Units, words.drills)
      return words
    },
  })
}

export const useCalculators = () =>
  useQuery({
    queryKey: ['calculators'],
    staleTime: Infinity,
    queryFn: () => ask(api.GET('/api/calc')) as Promise<CalculatorWords[]>,
  })

export type Inputs = Record<string, string>
export const useResults = (name: string, inputs: Inputs) =>
  useQuery({
    queryKey: ['calc', name, inputs],
    meta: { shown: true },
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      ask(api.POST('/api/calc/{name}', { params: { path: { name } }, body: inputs })) as Promise<
        Record<string, unknown>
      >,
  })
export const useDrawing = (name: string, inputs: Inputs, system: System) =>
  useQuery({
    queryKey: ['drawing', name, inputs, system],
    meta: { shown: true },
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      ask(
        api.POST('/api/calc/{name}/drawing', {
          params: { path: { name }, query: { system } },
          body: inputs,
        }),
      ),
  })

const POLL_MS = 300
// after an edit: somebody who goes on typing is not held up by the rest of the answer before
const REST_MS = 150
const isWhole = (answer: PlanAnswer) => !!answer.evaluation && !answer.evaluation.working

// The plan with its last known evaluation; `working` while a newer one is being worked out, all of it or a part.
export function usePlan(plan: number) {
  const cache = useQueryClient()
  const session = useMemo(() => sessionOf(plan, cache), [plan, cache])
  const state = useSyncExternalStore(session.subscribe, session.snapshot)
  const query = useQuery({
    ...planQuery(plan, cache),
    refetchInterval: ({ state: { data } }) =>
      !data || isWhole(data) ? false : data.evaluation ? REST_MS : POLL_MS,
    refetchOnWindowFocus: true,
  })
  const [known, setKnown] = useState<Evaluation | null>(null)
  const fresh = query.data?.evaluation ?? null
  useEffect(() => {
    if (fresh) setKnown(fresh) // eslint-disable-line react-hooks/set-state-in-effect
  }, [fresh])
  const working = !!query.data && !isWhole(query.data)
  return { ...query, session, state, evaluation: fresh ?? known, working }
}

export function useTask(id: number | null, onEnd: (task: Task) => void) {
  const query = useQuery({
    queryKey: ['task', id],
    enabled: id !== null,
    queryFn: () => ask(api.GET('/api/tasks/{id}', { params: { path: { id: id ?? 0 } } })),
    refetchInterval: (asked) =>
      asked.state.data && ['done', 'failed', 'cancelled'].includes(asked.state.data.state)
        ? false
        : POLL_MS,
  })
  const ended =
    query.data && ['done', 'failed', 'cancelled'].includes(query.data.state) ? query.data : null
  useEffect(() => {
    if (ended) onEnd(ended)
  }, [ended]) // eslint-disable-line react-hooks/exhaustive-deps
  return query.data ?? null
}
