import { useCallback } from 'react'
import { useSearchParams } from 'react-router'
import type { Evaluation, Plan } from '../../api/client'

// Keys can come faster than pages are drawn: what is selected this very moment stands in the address.
export const selectedNow = () => new URLSearchParams(window.location.search).get('op')

// What is selected lives in the address, so it survives an edit, a reload and a link.
export function useSelection(plan: Plan, evaluation: Evaluation | null) {
  const [params, setParams] = useSearchParams()
  const asked = params.get('op')
  const setups = plan.setups ?? []
  const holder = asked
    ? setups.find((setup) => setup.operations?.some((op) => op.id === asked))
    : undefined
  const operation = holder ? asked : null
  const setup =
    holder?.id ??
    (setups.some((each) => each.id === params.get('setup')) ? params.get('setup') : null) ??
    setups[0]?.id ??
    ''
  const setupOpen = params.get('open') === 'setup' && !operation
  const pick = useCallback(
    (setupId: string, operationId: string | null, open = false) =>
      setParams(
        operationId
          ? { op: operationId }
          : open
            ? { setup: setupId, open: 'setup' }
            : { setup: setupId },
        { replace: true, flushSync: true },
      ),
    [setParams],
  )
  const order = (evaluation?.setups ?? []).flatMap((each) =>
    each.operations.map((op) => ({ setup: each.id, id: op.id })),
  )
  return { setup, operation, setupOpen, pick, order }
}
