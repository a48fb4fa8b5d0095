import { useState } from 'react'
import { api, ask, type Problem } from '../api/client'

// A plan this program can't read: why, and what can be done about it. No other job is the worse for it.
export function Unreadable({
  plan,
  problem,
  again,
}: {
  plan: number
  problem: Problem
  again: () => void
}) {
  const [said, setSaid] = useState('')
  const undo = async () => {
    try {
      await ask(
        api.POST('/api/plans/{id}/undo', {
          params: { path: { id: plan } },
          body: { revision: Number(problem.head) },
        }),
      )
      again()
    } catch (error) {
      setSaid((error as Error).message)
    }
  }
  return (
    <div className="mx-auto max-w-xl px-6 py-10">
      <h1 className="mb-1 text-[20px] font-semibold">This job can’t be read</h1>
      <p role="alert" className="mb-4">
        {problem.sentence}
      </p>
      <div className="flex items-center gap-4">
        {problem.can_undo === true && (
          <button className="press" onClick={() => void undo()}>
            Undo the last change
          </button>
        )}
        <a className="link" href={`/api/plans/${plan}/document.json`}>
          Save the document as it is
        </a>
      </div>
      {said && (
        <p role="alert" className="mt-3 text-red-edge">
          {said}
        </p>
      )}
      <p className="mt-4 text-ink-2">
        Nothing of it is lost: every earlier draft is kept, and its releases stand as they are.
      </p>
    </div>
  )
}
