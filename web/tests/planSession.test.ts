import { QueryClient } from '@tanstack/react-query'
import type { Edit } from '../src/api/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

type Sent = { url: string; body: { revision: number; edits?: { do: string }[] } }
let sent: Sent[] = []
let answers: (() => Response | Promise<Response>)[] = []
const head = (revision: number) => ({
  id: 1,
  revision,
  plan: { setups: [] },
  evaluation: {},
  can_undo: true,
  can_redo: false,
})
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
const edit = (rpm: number): Edit[] => [{ do: 'change', on: 'operation:a', fields: { rpm } }]

async function session() {
  vi.resetModules()
  const { PlanSession } = await import('../src/api/planSession')
  const cache = new QueryClient()
  cache.setQueryData(['plan', 1], head(5))
  return {
    session: new PlanSession(1, cache),
    cache,
    revision: () => (cache.getQueryData(['plan', 1]) as { revision: number }).revision,
  }
}

beforeEach(() => {
  sent = []
  answers = []
  vi.stubGlobal('document', { cookie: 'csrftoken=abc' })
  const real = Request
  vi.stubGlobal(
    'Request',
    class extends real {
      constructor(input: string | Request, init?: RequestInit) {
        super(
          typeof input === 'string' && input.startsWith('/') ? `http://here${input}` : input,
          init,
        )
      }
    },
  )
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push({
      url: new URL(request.url).pathname,
      body: request.method === 'POST' ? await request.json() : null,
    })
    const next = answers.shift()
    if (!next) throw new Error('no answer prepared')
    return next()
  })
})
afterEach(() => vi.unstubAllGlobals())

describe('edits of a plan', () => {
  it('go one at a time, each on the revision the last one made', async () => {
    const { session: it_, revision } = await session()
    answers = [() => json(head(6)), () => json(head(7)), () => json(head(8))]
    await Promise.all([it_.edit(edit(1)), it_.edit(edit(2)), it_.edit(edit(3))])
    expect(sent.map((each) => each.body.revision)).toEqual([5, 6, 7])
    expect(revision()).toBe(8)
    expect(it_.snapshot().waiting).toBe(0)
  })

  it('that replace a whole value are made from the plan as it is when their turn comes', async () => {
    const { session: it_ } = await session()
    const with_ = (stock: object) => () => json({ ...head(6), plan: { stock } })
    answers = [with_({ left: 2 }), with_({ left: 2, right: 3 })]
    const put = (fields: object) =>
      it_.edit((plan) => [{ do: 'set_stock', stock: { ...plan?.stock, ...fields } }])
    await Promise.all([put({ left: 2 }), put({ right: 3 })])
    expect(
      sent.map((each) => (each.body.edits?.[0] as { stock?: object } | undefined)?.stock),
    ).toEqual([{ left: 2 }, { left: 2, right: 3 }])
  })

  it('that are refused tell why, and the next one goes on', async () => {
    const { session: it_ } = await session()
    answers = [() => json({ sentence: 'Step down is -2.', problems: [] }, 422), () => json(head(6))]
    const refused = it_.edit(edit(1))
    const after = it_.edit(edit(2))
    await expect(refused).rejects.toThrow('Step down is -2.')
    await after
    expect(sent.map((each) => each.body.revision)).toEqual([5, 5])
  })

  it('wait for the planner when somebody else was faster, and can go on top', async () => {
    const { session: it_ } = await session()
    answers = [
      () =>
        json(
          {
            sentence: 'planner2 changed this plan meanwhile.',
            problems: [],
            head: 9,
            applies: true,
            why: '',
            meets: [],
            by: ['planner2'],
          },
          409,
        ),
      () => json(head(9)),
      () => json(head(10)),
      () => json(head(11)),
    ]
    const mine = it_.edit(edit(1))
    const behind = it_.edit(edit(2))
    await vi.waitFor(() => expect(it_.snapshot().conflict).not.toBeNull())
    expect(sent).toHaveLength(1)
    expect(it_.snapshot().conflict?.mine).toEqual(edit(1))
    await it_.putMineOnTop()
    await Promise.all([mine, behind])
    expect(sent.slice(2).map((each) => each.body.revision)).toEqual([9, 10])
  })

  it('can be put aside for theirs, and a copy is kept and applied later', async () => {
    const { session: it_, revision } = await session()
    answers = [
      () =>
        json(
          { sentence: 'x', problems: [], head: 9, applies: true, why: '', meets: ['a'], by: ['b'] },
          409,
        ),
      () => json(head(9)),
      () => json(head(10)),
    ]
    const mine = it_.edit(edit(7))
    await vi.waitFor(() => expect(it_.snapshot().conflict).not.toBeNull())
    await it_.takeTheirs()
    await mine
    expect(revision()).toBe(9)
    expect(it_.snapshot().kept).toEqual(edit(7))
    await it_.putKept()
    expect(sent.at(-1)?.body.edits).toEqual(edit(7))
    expect(it_.snapshot().kept).toBeNull()
  })

  it('are kept while there is no line and sent when it is back', async () => {
    vi.useFakeTimers()
    const { session: it_, revision } = await session()
    answers = [() => Promise.reject(new TypeError('failed to fetch')), () => json(head(6))]
    const waiting = it_.edit(edit(1))
    await vi.waitFor(() => expect(it_.snapshot().offline).toBe(true))
    expect(it_.snapshot().waiting).toBe(1)
    await vi.advanceTimersByTimeAsync(2100)
    await waiting
    expect(revision()).toBe(6)
    expect(it_.snapshot().offline).toBe(false)
    vi.useRealTimers()
  })

  it('are undone and done again on the head', async () => {
    const { session: it_ } = await session()
    answers = [() => json(head(6)), () => json(head(7))]
    await it_.undo()
    await it_.redo()
    expect(sent.map((each) => each.url)).toEqual(['/api/plans/1/undo', '/api/plans/1/redo'])
  })

  it('never go back to an older revision', async () => {
    const { session: it_, revision } = await session()
    it_.take(head(4) as never)
    expect(revision()).toBe(5)
  })

  it('stay when an answer asked for before them arrives late', async () => {
    const { newerOf } = await import('../src/api/planSession')
    const late = head(5) as never
    expect(newerOf(head(6) as never, late).revision).toBe(6)
    expect(newerOf(undefined, late).revision).toBe(5)
    const changed = { ...head(6), evaluation: { other: 'library' } } as never
    expect(newerOf(head(6) as never, changed)).toBe(changed) // the same revision answered anew
  })
})
