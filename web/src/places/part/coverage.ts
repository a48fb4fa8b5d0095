import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask } from '../../api/client'
import type { components } from '../../api/schema'
import { useFrame } from '../frame'

export type Place = components['schemas']['PlaceOut']
export const FAR = ['not yet', 'roughed', 'finished', 'checked'] as const

// What is cut of each place of the part, by which operations; asked anew with each revision.
export function useCoverage() {
  const { answer } = useFrame()
  return useQuery({
    queryKey: ['coverage', answer.id, answer.revision],
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(api.GET('/api/plans/{id}/coverage', { params: { path: { id: answer.id } } })),
  })
}

export type Covered = ReturnType<typeof useCoverage>

export function facesOf(places: Place[] | undefined): Record<number, string> | undefined {
  if (!places) return undefined
  return Object.fromEntries(places.flatMap((each) => each.faces.map((face) => [face, each.stage])))
}

export type Row = Place & { count: number }

// Like places that are as far, cut by the same operations, in one row.
export function together(places: Place[]): Row[] {
  const rows = new Map<string, Row>()
  for (const place of places) {
    const { where, stage, rough, finish, asked } = place
    const key = JSON.stringify([where, stage, rough, finish, asked])
    const known = rows.get(key)
    const stands = Math.max(known?.stands ?? 0, place.stands)
    rows.set(key, { ...(known ?? place), count: (known?.count ?? 0) + 1, stands })
  }
  return [...rows.values()]
}
