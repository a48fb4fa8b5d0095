import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Task, upload } from '../../api/client'
import { useTask } from '../../api/hooks'

// A STEP file on its way to be the part or its blank: sent, read with progress, one solid chosen of several.
export function useStepFile(plan: number, use: 'part' | 'blank', begun?: Begun | null) {
  const cache = useQueryClient()
  const [sent, setSent] = useState<{ name: string; share: number } | null>(null)
  const [task, setTask] = useState<number | null>(begun?.reading ?? null)
  const [problem, setProblem] = useState(begun?.refused ?? '')
  const [sizes, setSizes] = useState<number[][] | null>(null)
  const [asked, setAsked] = useState<number | null>(null)
  const running = useTask(task, (ended: Task) => {
    setTask(null)
    if (ended.state === 'done') void cache.invalidateQueries({ queryKey: ['plan', plan] })
    else if (Array.isArray(ended.result.sizes) && ended.result.sizes.length > 1) {
      setSizes(ended.result.sizes as number[][])
      setAsked(ended.id)
      setProblem(ended.message)
    } else setProblem(ended.message)
    void cache.invalidateQueries({ queryKey: ['jobs'] })
  })
  const refused = (error: unknown) => setProblem((error as Error).message)
  const send = async (file: File | undefined) => {
    if (!file) return
    setProblem('')
    setSizes(null)
    setSent({ name: file.name, share: 0 })
    try {
      const begins = await upload(`/api/plans/${plan}/step?use=${use}`, file, (share) =>
        setSent({ name: file.name, share }),
      )
      setTask(begins.id)
    } catch (error) {
      refused(error)
    }
    setSent(null)
  }
  const choose = async (solid: number) => {
    setSizes(null)
    setProblem('')
    if (asked === null) return
    const path = { id: asked }
    await ask(api.POST('/api/tasks/{id}/solid', { params: { path }, body: { solid } })).then(
      (begins) => setTask(begins.id),
      refused,
    )
  }
  // the same file once more, to lie another way
  const lay = async (way: 'straight' | 'file' | number) => {
    setProblem('')
    const path = { id: plan }
    await ask(api.POST('/api/plans/{id}/lay', { params: { path }, body: { lay: way } })).then(
      (begins) => setTask(begins.id),
      refused,
    )
  }
  const stop = () => {
    if (task === null) return
    const path = { id: task }
    ask(api.POST('/api/tasks/{id}/cancel', { params: { path } })).catch(refused)
  }
  return { sent, running, task, problem, sizes, send, choose, lay, stop }
}

type Begun = { reading?: number; refused?: string }
export type StepFile = ReturnType<typeof useStepFile>
