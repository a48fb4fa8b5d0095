import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'

export type Load = components['schemas']['LoadOut']
export type LoadStation = Load['stations'][number]

// How a setup's parts stand on the table; null where they stand on none.
export const useLoad = (answer: PlanAnswer, setup: string) =>
  useQuery({
    queryKey: ['load', answer.id, answer.revision, setup],
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/setups/{setup}/load', {
          params: { path: { id: answer.id, setup } },
        }),
      ),
  })
