import { useOutletContext } from 'react-router'
import type { Evaluation, Job, PlanAnswer } from '../api/client'
import type { PlanSession, SessionState } from '../api/planSession'

// What every place of a job works with.
export type Frame = {
  job: Job
  answer: PlanAnswer
  evaluation: Evaluation | null
  working: boolean
  session: PlanSession
  state: SessionState
}
export const useFrame = () => useOutletContext<Frame>()
