import { useRef, useState } from 'react'
import { type PlanAnswer, uploadFile } from '../../api/client'
import { useFrame } from '../frame'

// The plan as a file, out and in. What comes in is the next draft; undo brings the old one back.
export function PlanFiles() {
  const { answer, session } = useFrame()
  const [problem, setProblem] = useState('')
  const picker = useRef<HTMLInputElement>(null)
  const take = async (file: File | undefined) => {
    if (!file) return
    setProblem('')
    try {
      session.take(
        await uploadFile<PlanAnswer>(
          `/api/plans/${answer.id}/import?revision=${answer.revision}`,
          file,
        ),
      )
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-4">
      <a className="link" href={`/api/plans/${answer.id}/export.json`}>
        Export the plan
      </a>
      <a className="link" href={`/api/plans/${answer.id}/tools.csv`}>
        Export the tool list
      </a>
      <button className="link" onClick={() => picker.current?.click()}>
        Import a plan
      </button>
      <input
        ref={picker}
        type="file"
        accept=".json"
        className="sr-only"
        aria-label="Plan file"
        tabIndex={-1}
        onChange={(event) => (void take(event.target.files?.[0]), (event.target.value = ''))}
      />
      {problem && (
        <p role="alert" className="w-full border-l-2 border-red pl-2">
          {problem} The plan stays as it was.
        </p>
      )}
    </div>
  )
}
