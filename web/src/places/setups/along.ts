import { useQuery } from '@tanstack/react-query'
import { useSyncExternalStore } from 'react'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'

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
let looked: { operation: string; at: number } | null = null
const told = new Set<() => void>()

export function look(operation: string, at: number | null) {
  looked = at === null ? null : { operation, at }
  told.forEach((each) => each())
}

export const useSpot = (operation: string | null): number | null => {
  const now = useSyncExternalStore(
    (tell) => (told.add(tell), () => told.delete(tell)),
    () => looked,
  )
  return now && now.operation === operation ? now.at : null
}
