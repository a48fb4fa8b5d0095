import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Task, upload } from '../../api/client'
import { useTask } from '../../api/hooks'

// A STEP file on its way: sent, read with progress, one solid chosen of several.
export function useStepReading(url: string, onDone: (task: Task) => void, begun?: Begun | null) {
  const cache = useQueryClient()
  const [sent, setSent] = useState<{ name: string; share: number } | null>(null)
  const [task, setTask] = useState<number | null>(begun?.reading ?? null)
  const [problem, setProblem] = useState(begun?.refused ?? '')
  const [sizes, setSizes] = useState<number[][] | null>(null)
  const [asked, setAsked] = useState<number | null>(null)
  const running = useTask(task, (ended: Task) => {
    setTask(null)
    if (ended.state === 'done') onDone(ended)
    else if (Array.isArray(ended.result.sizes) && ended.result.sizes.length > 1) {
      setSizes(ended.result.sizes as number[][])
      setAsked(ended.id)
      setProblem(ended.message)
    } else setProblem(ended.message)
    void cache.invalidateQueries({ queryKey: ['jobs'] })
  })
  const refused = (error: unknown) => setProblem((error as Error).message)
  const begin = (sending: Promise<Task>) => (
    setProblem(''),
    sending.then((begins) => setTask(begins.id), refused)
  )
  const send = async (file: File | undefined) => {
    if (!file) return
    setSizes(null)
    setSent({ name: file.name, share: 0 })
    await begin(upload(url, file, (share) => setSent({ name: file.name, share })))
    setSent(null)
  }
  const choose = async (solid: number) => {
    setSizes(null)
    if (asked === null) return
    const path = { id: asked }
    await begin(ask(api.POST('/api/tasks/{id}/solid', { params: { path }, body: { solid } })))
  }
  const stop = () => {
    if (task === null) return
    const path = { id: task }
    ask(api.POST('/api/tasks/{id}/cancel', { params: { path } })).catch(refused)
  }
  return { sent, running, task, problem, sizes, send, choose, stop, begin }
}

// The same for the part of a plan, or its blank.
export function useStepFile(plan: number, use: 'part' | 'blank', begun?: Begun | null) {
  const cache = useQueryClient()
  const reading = useStepReading(
    `/api/plans/${plan}/step?use=${use}`,
    () => void cache.invalidateQueries({ queryKey: ['plan', plan] }),
    begun,
  )
  // the same file once more, to lie another way
  const lay = (way: 'straight' | 'file' | number) => {
    const path = { id: plan }
    return reading.begin(
      ask(api.POST('/api/plans/{id}/lay', { params: { path }, body: { lay: way } })),
    )
  }
  return { ...reading, lay }
}

type Begun = { reading?: number; refused?: string }
export type StepFile = ReturnType<typeof useStepReading>
export type PartFile = ReturnType<typeof useStepFile>
