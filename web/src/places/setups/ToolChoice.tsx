import { useQuery } from '@tanstack/react-query'
import { api, ask, type Edit, type OperationResult, type PlannedTool } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { Choice, type Option } from '../../ui/Choice'
import { Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'

type Props = { op: OperationResult; value: string; onChange: (edits: Edit[]) => void }

// The tools an operation can be given: those that suit first, loaded before to be loaded; of the others why they don't.
export function ToolChoice({ op, value, onChange }: Props) {
  const { answer } = useFrame()
  const { data: library } = useLibrary()
  const { data } = useQuery({
    queryKey: ['tools', answer.id, answer.revision, op.id],
    staleTime: Infinity,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/operations/{operation}/tools', {
          params: { path: { id: answer.id, operation: op.id } },
        }),
      ),
  })
  const loaded = answer.plan.tools?.find((tool) => tool.id === value)
  const named = (key: string) =>
    String(
      library?.items.find((item) => item.kind === 'assemblies' && item.key === key)?.data.name ??
        key,
    )
  const now: Option<string> = {
    value: 'now',
    label: loaded ? `T${loaded.number} ${named(loaded.assembly)}` : 'no tool',
  }
  const rows = (data ?? [])
    .map((each, place) => ({ each, value: String(place) }))
    .filter(({ each }) => !(loaded && each.number === loaded.number))
  const options: Option<string>[] = [
    now,
    ...rows.map(({ each, value: place }) => ({
      value: place,
      label: `${each.number === null ? '' : `T${each.number} `}${each.name}`,
      aside: each.why_not ? (
        <span className="text-small">
          <Sentence text={each.why_not} values={each.values} />
        </span>
      ) : each.number === null ? (
        'load it'
      ) : (
        'loaded'
      ),
      dim: !!each.why_not,
    })),
    ...(loaded ? [{ value: 'none', label: 'no tool' }] : []),
  ]
  const choose = (next: string) => {
    if (next === 'now') return
    if (next === 'none')
      return onChange([{ do: 'change', on: `operation:${op.id}`, fields: { tool: '' } }])
    const taken = data?.[Number(next)]
    if (taken) onChange(taken.edits as Edit[])
  }
  return (
    <>
      <Choice label="Tool" value="now" options={options} onChange={choose} />
      {loaded && <Carrier tool={loaded} onChange={onChange} />}
    </>
  )
}

// Where a machine with several carriers holds the tool.
function Carrier({ tool, onChange }: { tool: PlannedTool; onChange: Props['onChange'] }) {
  const { data: library } = useLibrary()
  const machine = library?.items.find(
    (item) => item.kind === 'machines' && item.key === tool.machine,
  )
  const carriers = (machine?.data.carriers as { id: string }[] | undefined) ?? []
  if (carriers.length < 2) return null
  return (
    <Choice
      label="in"
      value={tool.carrier || carriers[0]!.id}
      options={carriers.map(({ id }) => ({ value: id, label: id }))}
      onChange={(carrier) =>
        onChange([{ do: 'change', on: `tool:${tool.id}`, fields: { carrier } }])
      }
    />
  )
}
