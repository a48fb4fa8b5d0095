import { useQueryClient } from '@tanstack/react-query'
import { api, ask, Refused } from '../../api/client'
import { quietly } from '../../api/planSession'
import { TextField } from '../../ui/TextField'
import { useFrame } from '../frame'

export function JobFields() {
  const { job } = useFrame()
  const cache = useQueryClient()
  const change = async (body: {
    title?: string
    revision?: string
    due?: string | null
    remark?: string
  }) => {
    try {
      const next = await ask(
        api.PATCH('/api/jobs/{number}', {
          params: { path: { number: job.number } },
          body: { ...body, touched: job.touched },
        }),
      )
      cache.setQueryData(['jobs', job.number], next)
    } catch (error) {
      if (error instanceof Refused && error.problem.status === 409)
        void cache.invalidateQueries({ queryKey: ['jobs', job.number] })
      throw error
    }
    void cache.invalidateQueries({ queryKey: ['jobs', 'list'] })
  }
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
      <TextField
        label="Title"
        value={job.title}
        max={120}
        onCommit={(title) => change({ title })}
      />
      <TextField
        label="Revision"
        value={job.revision}
        wide="w-14 n"
        max={10}
        onCommit={(revision) => change({ revision })}
      />
      <label className="inline-flex items-center gap-1.5">
        <span className="text-ink-2">Due</span>
        <input
          type="date"
          className="field n"
          value={job.due ?? ''}
          onChange={(event) => void quietly(change({ due: event.target.value || null }))}
        />
      </label>
      <TextField
        label="Remark"
        value={job.remark}
        wide="w-80"
        max={500}
        onCommit={(remark) => change({ remark })}
      />
    </div>
  )
}
