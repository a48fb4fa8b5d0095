import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'

export type Hold = components['schemas']['HoldOut']
export type Touch = Hold['touches'][number]
export type Stood = Hold['operations'][number]

// Shares of the force and the friction that are planned, to try.
export type Tried = { force: number; friction: number }
export const AS_PLANNED: Tried = { force: 1, friction: 1 }

// How a station's part is held, with one of its operations; null while nobody knows how.
export const useHold = (
  answer: PlanAnswer,
  station: string,
  operation: string,
  tried: Tried = AS_PLANNED,
) =>
  useQuery({
    queryKey: ['hold', answer.id, answer.revision, station, operation, tried],
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/stations/{station}/hold', {
          params: { path: { id: answer.id, station }, query: { operation, ...tried } },
        }),
      ),
  })
