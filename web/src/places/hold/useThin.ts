import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'

export type Wall = components['schemas']['WallOut']

// Where the stock is thin once an operation is done; nothing is asked while none is chosen.
export const useThin = (answer: PlanAnswer, operation: string) =>
  useQuery({
    queryKey: ['thin', answer.id, answer.revision, operation],
    placeholderData: (before) => before,
    enabled: operation !== '',
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/operations/{operation}/thin', {
          params: { path: { id: answer.id, operation } },
        }),
      ) as Promise<Wall[]>,
  })
