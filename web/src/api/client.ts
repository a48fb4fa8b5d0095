import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type PlanAnswer = Schemas['PlanOut']
export type Evaluation = Schemas['EvaluationOut']
export type SetupResult = Schemas['SetupOut']
export type StationResult = Schemas['StationOut']
export type OperationResult = Schemas['OperationOut']
export type Finding = Schemas['FindingOut']
export type Fix = Schemas['FixOut']
export type Job = Schemas['JobOut']
export type JobRow = Schemas['JobRow']
export type Preview = Schemas['PreviewOut']
export type Words = Schemas['WordsOut']
export type Way = Schemas['ChoiceOut']
export type Ranking = Schemas['RankingOut']
export type SlopeRanking = Schemas['SlopeRankingOut']
export type Offer = Schemas['OfferOut']
export type Review = Schemas['ReviewOut']
export type Task = Schemas['TaskOut']
export type Item = Schemas['ItemOut']
export type TableLine = Schemas['LineOut']
export type CalculatorWords = Schemas['CalculatorOut']
export type ParameterWords = Schemas['ParameterOut']
export type Plan = PlanAnswer['plan']
export type PlannedSetup = NonNullable<Plan['setups']>[number]
export type PlannedTool = NonNullable<PlanAnswer['plan']['tools']>[number]
export type PlannedStation = PlannedSetup['stations'][number]
// What a planner does to a plan, told apart by `do`.
export type Edit = Schemas['EditsIn']['edits'][number]

// Every refusal of the server has this shape; a broken line gets it too.
export type Problem = {
  sentence: string
  problems: { field: string; value: string; sentence: string }[]
  status: number
  [more: string]: unknown
}

export class Refused extends Error {
  problem: Problem
  constructor(problem: Problem) {
    super(problem.sentence)
    this.problem = problem
  }
}

function cookie(name: string): string {
  return (
    document.cookie
      .split('; ')
      .find((each) => each.startsWith(name + '='))
      ?.slice(name.length + 1) ?? ''
  )
}

export const OFFLINE =
  'The server does not answer. What you typed is kept; it is sent when the line is back.'

const reach: typeof fetch = async (input, init) => {
  try {
    return await fetch(input, init)
  } catch {
    throw new Refused({ sentence: OFFLINE, problems: [], status: 0 })
  }
}

export const api = createClient<paths>({
  baseUrl: '/',
  fetch: reach as (input: Request) => Promise<Response>,
})
api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', cookie('csrftoken'))
    return request
  },
})

type Answer<T> = { data?: T; error?: unknown; response: Response }

export async function ask<T>(sent: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await sent
  if (response.ok) return data as T
  throw new Refused({
    sentence: `The server answered ${response.status}.`,
    problems: [],
    ...(typeof error === 'object' ? error : {}),
    status: response.status,
  })
}

// What is no JSON, refused the same way.
export async function bytesAt(url: string): Promise<ArrayBuffer> {
  const response = await reach(url)
  if (response.ok) return response.arrayBuffer()
  const told: unknown = await response.json().catch(() => ({}))
  return ask(Promise.resolve({ error: told, response }))
}

// Files go up with progress, which fetch can't tell.
export const upload = (url: string, file: File, progress: (share: number) => void) =>
  uploadFile<Task>(url, file, progress)

export function uploadFile<T>(
  url: string,
  file: File,
  progress: (share: number) => void = () => {},
): Promise<T> {
  return new Promise((resolve, reject) => {
    const line = new XMLHttpRequest()
    line.open('POST', url)
    line.setRequestHeader('X-CSRFToken', cookie('csrftoken'))
    line.upload.onprogress = (event) =>
      event.lengthComputable && progress(event.loaded / event.total)
    line.onerror = () => reject(new Refused({ sentence: OFFLINE, problems: [], status: 0 }))
    line.onload = () => {
      let body: Record<string, unknown> = {}
      try {
        body = JSON.parse(line.responseText)
      } catch {
        /* a front server's own page */
      }
      if (line.status < 300) resolve(body as unknown as T)
      else
        reject(
          new Refused({
            sentence:
              line.status === 413
                ? 'The file is too large.'
                : `The server answered ${line.status}.`,
            problems: [],
            ...body,
            status: line.status,
          }),
        )
    }
    const form = new FormData()
    form.append('file', file)
    line.send(form)
  })
}
