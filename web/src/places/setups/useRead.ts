import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'
import { shared } from '../../ui/shared'

export type Pointed = components['schemas']['PointIn']
export type Read = components['schemas']['ReadOut']

// Is a point being read? Clicks on the stage are then picks.
export const reading = shared(false)

// What the picked points are and where they stand in every station.
export const useRead = (answer: PlanAnswer, station: string, points: Pointed[], near_mm: number) =>
  useQuery({
    queryKey: ['read', answer.id, answer.revision, station, points, near_mm],
    placeholderData: keepPreviousData,
    enabled: points.length > 0,
    queryFn: () =>
      ask(
        api.POST('/api/plans/{id}/read', {
          params: { path: { id: answer.id } },
          body: { station, points, near_mm },
        }),
      ),
  })

// Points as lines of text, to be pasted anywhere: where each stands in every station.
export function asText(read: Read, names: Record<string, string>): string {
  return read.points
    .flatMap((point) =>
      point.stations.map(({ station, at, diameter_mm }) =>
        [
          names[station] ?? station,
          ...(diameter_mm === null ? at : [diameter_mm, at[2]!]).map((each) => each!.toFixed(4)),
        ].join('\t'),
      ),
    )
    .join('\n')
}
