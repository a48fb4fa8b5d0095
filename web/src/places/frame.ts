import { useOutletContext } from 'react-router'
import type { Evaluation, Job, PlanAnswer } from '../api/client'
import type { PlanSession, SessionState } from '../api/planSession'

// What every place of a job works with; `base` is where its places are, of a plan that the job does not go by too.
export type Frame = {
  job: Job
  base: string
  answer: PlanAnswer
  evaluation: Evaluation | null
  working: boolean
  session: PlanSession
  state: SessionState
}
export const useFrame = () => useOutletContext<Frame>()
