// One plan's edits, sent one at a time with the revision they were made on. Nothing typed is lost: what the server
// can't take now waits here until it can, or until the planner says what shall become of it.
import type { QueryClient } from '@tanstack/react-query'
import { api, ask, type Edit, type PlanAnswer, Refused } from './client'

export type Conflict = {
  sentence: string
  mine: Edit[]
  head: number
  applies: boolean
  why: string
  meets: string[]
  by: string[]
}
export type SessionState = {
  waiting: number
  offline: boolean
  conflict: Conflict | null
  problem: string
  kept: Edit[] | null
}
type Work = {
  run: (revision: number) => Promise<PlanAnswer>
  edits: () => Edit[]
  done: () => void
  failed: (error: Error) => void
}

const RETRY_MS = 2000
// the generated client widens the document's pairs and triples to arrays
const answered = (sent: Parameters<typeof ask>[0]) => ask(sent) as Promise<PlanAnswer>

// Work whose refusal needs no more than what the frame shows of it.
export const quietly = (work: Promise<unknown>): Promise<unknown> => work.catch(() => {})

// An answer asked for before an edit can arrive after the edit's own: what is newer stays.
export const newerOf = (had: PlanAnswer | undefined, got: PlanAnswer): PlanAnswer =>
  had && had.revision > got.revision ? had : got

export class PlanSession {
  private queue: Work[] = []
  private busy = false
  private listeners = new Set<() => void>()
  state: SessionState = { waiting: 0, offline: false, conflict: null, problem: '', kept: null }

  constructor(
    readonly plan: number,
    private cache: QueryClient,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
  snapshot = () => this.state
  private set(next: Partial<SessionState>) {
    this.state = { ...this.state, ...next }
    this.listeners.forEach((listener) => listener())
  }

  // Edits that replace a whole value are made when their turn comes, from the plan as it is then: what was typed a moment
  // before must not be written over with what stood there earlier.
  edit = (edits: Edit[] | ((plan: PlanAnswer['plan']) => Edit[])) => {
    const made = () => {
      if (Array.isArray(edits)) return edits
      const head = this.head()
      return head ? edits(head.plan) : []
    }
    return this.add(made, (revision) =>
      answered(
        api.POST('/api/plans/{id}/edits', {
          params: { path: { id: this.plan } },
          body: { revision, edits: made() },
        }),
      ),
    )
  }
  // The same for whoever has nothing to do when it is refused: the frame shows why.
  send = (edits: Edit[] | ((plan: PlanAnswer['plan']) => Edit[])) => {
    void quietly(this.edit(edits))
  }
  undo = () => this.step('undo')
  redo = () => this.step('redo')
  private step(way: 'undo' | 'redo') {
    const sent = (revision: number) =>
      answered(
        api.POST(`/api/plans/{id}/${way}`, {
          params: { path: { id: this.plan } },
          body: { revision },
        }),
      )
    return quietly(this.add(() => [], sent))
  }
  clear = () => this.set({ problem: '' })

  head = (): PlanAnswer | undefined => this.cache.getQueryData(['plan', this.plan])

  private add(edits: Work['edits'], run: Work['run']): Promise<void> {
    return new Promise((done, failed) => {
      this.queue.push({ run, edits, done, failed })
      this.state = { ...this.state, waiting: this.queue.length, problem: '' }
      void this.next()
      setTimeout(() => this.set({}), 0) // the request leaves first; 'saving' is drawn while the server works
    })
  }

  private async next(): Promise<void> {
    const work = this.queue[0]
    const head = this.head()
    if (this.busy || !work || !head || this.state.conflict) return
    this.busy = true
    try {
      this.take(await work.run(head.revision))
      this.drop(work)
      work.done()
    } catch (error) {
      this.refused(work, error as Error)
    }
    this.busy = false
    if (!this.state.offline) void this.next()
  }

  private refused(work: Work, error: Error) {
    const problem =
      error instanceof Refused
        ? error.problem
        : { sentence: error.message, problems: [], status: 500 }
    if (problem.status === 0) {
      this.set({ offline: true })
      setTimeout(() => {
        this.set({ offline: false })
        void this.next()
      }, RETRY_MS)
      return
    }
    if (problem.status === 409 && 'head' in problem) {
      const { head, applies, why, meets, by } = problem as unknown as Conflict
      this.set({
        conflict: { sentence: problem.sentence, mine: work.edits(), head, applies, why, meets, by },
      })
      return
    }
    this.drop(work)
    this.set({ problem: problem.sentence })
    work.failed(error)
  }

  // What nobody else touched goes on top of theirs; else the planner has seen what meets and wants it anyway.
  putMineOnTop = async () => {
    await this.refresh()
    this.set({ conflict: null })
    void this.next()
  }

  takeTheirs = async () => {
    const mine = this.queue.flatMap((work) => work.edits())
    this.queue.forEach((work) => work.done())
    this.queue = []
    await this.refresh()
    this.set({ conflict: null, waiting: 0, kept: mine.length ? mine : this.state.kept })
  }

  putKept = () => {
    const kept = this.state.kept
    this.set({ kept: null })
    return kept ? quietly(this.edit(kept)) : Promise.resolve()
  }
  dropKept = () => this.set({ kept: null })

  private async refresh() {
    this.take(await answered(api.GET('/api/plans/{id}', { params: { path: { id: this.plan } } })))
  }

  private drop(work: Work) {
    this.queue = this.queue.filter((each) => each !== work)
    this.set({ waiting: this.queue.length })
  }

  take(answer: PlanAnswer) {
    this.cache.setQueryData(['plan', this.plan], newerOf(this.head(), answer))
    void this.cache.invalidateQueries({ queryKey: ['review', this.plan] })
  }
}

const sessions = new Map<number, PlanSession>()
export function sessionOf(plan: number, cache: QueryClient): PlanSession {
  let session = sessions.get(plan)
  if (!session) sessions.set(plan, (session = new PlanSession(plan, cache)))
  return session
}
