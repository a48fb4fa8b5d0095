import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../api/client'
import { fixed } from './format'

type Leaf = { name: string; origin: string; value: number }
export type Asked = {
  changed: Leaf[]
  values: Record<string, number>
  more: Leaf[]
  problem: string
  set: (leaf: Leaf | null, name: string, origin: string) => void
}

// What inputs changed outside the plan would make of a figure and of all it is made of.
export function useWhatIf(figure: string, plan?: number, revision?: number) {
  const [asking, setAsking] = useState(false)
  const [changed, setChanged] = useState<Leaf[]>([])
  const { data, error } = useQuery({
    queryKey: ['what-if', plan, revision, figure, changed],
    meta: { shown: true },
    enabled: asking && plan !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      ask(
        api.POST('/api/plans/{id}/what-if', {
          params: { path: { id: plan ?? 0 } },
          body: { figure, changed },
        }),
      ),
  })
  const set: Asked['set'] = (leaf, name, origin) =>
    setChanged((now) => [
      ...now.filter((each) => each.name !== name || each.origin !== origin),
      ...(leaf ? [leaf] : []),
    ])
  const asked: Asked | null = asking
    ? {
        changed,
        values: data?.values ?? {},
        more: data?.sensitivity ?? [],
        problem: error?.message ?? '',
        set,
      }
    : null
  return {
    asking,
    changed,
    asked,
    ask: (on: boolean) => {
      setAsking(on)
      setChanged([])
    },
    clear: () => setChanged([]),
  }
}

// One input that can be changed in a what-if.
export function Leafed({
  name,
  origin,
  value,
  unit,
  asked,
}: {
  name: string
  origin: string
  value: number
  unit: string
  asked: Asked
}) {
  const now = asked.changed.find((each) => each.name === name && each.origin === origin)
  const [text, setText] = useState<string | null>(null)
  const commit = () => {
    const read = Number((text ?? '').replace(',', '.'))
    if (text !== null && text.trim() !== '' && Number.isFinite(read))
      asked.set(read === value ? null : { name, origin, value: read }, name, origin)
    setText(null)
  }
  return (
    <span className="inline-flex items-center gap-1">
      <input
        aria-label={`what if ${name.replaceAll('_', ' ')}`}
        className={`field n w-20 min-h-5! py-0! text-right text-small ${now ? 'border-brass' : ''}`}
        inputMode="decimal"
        value={text ?? trimmed(now?.value ?? value)}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
      {unit}
    </span>
  )
}

export function trimmed(value: number): string {
  return fixed(value, Math.abs(value) < 1 ? 4 : 3).replace(/\.?0+$/, '') || '0'
}
