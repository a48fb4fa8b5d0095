import { useWords } from '../../api/hooks'

const NOTHING = { typed: [], picked: [] }

// What a kind of operation, and a place it can work at, are asked for: the words come with the model.
export function useKind(kind: string | undefined) {
  const { data: words } = useWords()
  return words?.kinds[kind ?? '']
}

export function usePlace(kind: string) {
  const { data: words } = useWords()
  return words?.places[kind] ?? NOTHING
}

export function useHolding(kind: string | undefined) {
  const { data: words } = useWords()
  return words?.holdings[kind ?? ''] ?? NOTHING
}

export function valueAt(record: Record<string, unknown>, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((at, name) => (at as Record<string, unknown> | undefined)?.[name], record)
}

const ONLY_BESIDE_ITS_MIDDLE = ['leave_mm', 'step_over_mm']

// On which side of its lines a tool stands says nothing for what runs on them; a slot of its tool's
// width leaves nothing, and only loops go on by steps.
export function asks(planned: Record<string, unknown>) {
  const onThem =
    planned.kind === 'engrave' || (planned.kind === 'slot' && planned.runs !== 'beside')
  const cuts = planned.kind === 'slot' ? String(planned.cuts ?? 'width') : null
  return ({ name }: { name: string }) => {
    if (onThem && name === 'on.tool_side') return false
    if (cuts === 'width') return !ONLY_BESIDE_ITS_MIDDLE.includes(name)
    return !(cuts === 'walls' && name === 'step_over_mm')
  }
}
