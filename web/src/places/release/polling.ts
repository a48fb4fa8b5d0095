import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'

export const POLL_MS = 800

export function useReviewPolling(plan: number, on: boolean) {
  const cache = useQueryClient()
  useEffect(() => {
    if (!on) return
    const timer = setInterval(
      () => void cache.invalidateQueries({ queryKey: ['review', plan] }),
      POLL_MS,
    )
    return () => clearInterval(timer)
  }, [cache, plan, on])
}
