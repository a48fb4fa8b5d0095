import { useEffect, useRef } from 'react'
import { api, ask } from '../../api/client'
import { useRights } from '../../app/session'
import { useWorked } from '../../api/worked'
import type { Found } from './reasons'

// What the worker finds of an order beyond what is found soon: begun as soon as there is any of it.
export function useFurther(plan: number, revision: number, setup: string, soon?: Found) {
  const may = useRights().has('plan')
  const path = { params: { path: { id: plan, setup } } }
  const place = '/api/plans/{id}/setups/{setup}/order/further'
  const worked = useWorked(
    ['order further', plan, revision, setup],
    () => ask(api.GET(place, path)),
    () => ask(api.POST(place, path)),
  )
  const { begin } = worked
  const begun = useRef(-1)
  const wanted = may && !!soon?.further && worked.known && !worked.task
  useEffect(() => {
    if (!wanted || begun.current === revision) return
    begun.current = revision
    begin()
  }, [wanted, revision, begin])
  return { ...worked, may, found: worked.data?.found as Found | null | undefined }
}
