import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'
import { shared } from '../../ui/shared'

export type Along = components['schemas']['AlongOut']

// What an operation asks of the spindle along its way; null where none is chosen or nothing is known.
export const useAlong = (answer: PlanAnswer, operation: string | null) =>
  useQuery({
    queryKey: ['along', answer.id, answer.revision, operation],
    enabled: operation !== null,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/operations/{operation}/along', {
          params: { path: { id: answer.id, operation: operation! } },
        }),
      ),
  })

// The place on an operation's way that is looked at: one at a time, in the strip and in the stage.
const looked = shared<{ operation: string; at: number } | null>(null)

export const look = (operation: string, at: number | null) =>
  looked.set(at === null ? null : { operation, at })

export const useSpot = (operation: string | null): number | null => {
  const now = looked.use()
  return now && now.operation === operation ? now.at : null
}
