import type { OperationResult } from '../../api/client'
import { Link } from 'react-router'
import { useCalculators, useLibrary, useWords } from '../../api/hooks'
import { benchLink, comparisons } from '../bench/fromOperation'
import { useFrame } from '../frame'
import { useKind } from './forms'

type BenchProps = {
  op: OperationResult
  planned: Record<string, unknown>
  machine: string
  tool?: { assembly: string; stick_out_mm: number }
}

// The calculators that serve this kind of operation, opened with its values.
export function OnTheBench({ op, planned, machine, tool }: BenchProps) {
  const { job, answer, evaluation } = useFrame()
  const { data: library } = useLibrary()
  const { data: calculators } = useCalculators()
  const { data: words } = useWords()
  const serving = calculators?.filter((each) => each.serves.includes(op.kind)) ?? []
  const kind = useKind(op.kind)
  const compared = comparisons({
    op,
    bench: kind?.bench ?? '',
    planned,
    material: answer.plan.material ?? '',
    quantity: answer.plan.quantity ?? 1,
    assemblies: (answer.plan.tools ?? [])
      .filter((each) => each.machine === machine)
      .map((each) => each.assembly),
  })
  if (!evaluation || serving.length + compared.length === 0) return null
  const item = (kind: string, key: unknown) =>
    library?.items.find((each) => each.kind === kind && each.key === key)?.data
  const about = {
    op,
    planned,
    evaluation,
    stickOut: tool?.stick_out_mm,
    stiffness: words?.stiffness ?? {},
    tool: item('tools', item('assemblies', tool?.assembly)?.tool),
    machine: item('machines', machine),
    material: item('materials', answer.plan.material),
  }
  return (
    <span className="flex flex-wrap items-baseline gap-x-3 text-small">
      <span className="text-ink-2">On the bench:</span>
      {serving.map((each) => (
        <Link
          key={each.name}
          className="link"
          to={benchLink(each, job.number, about, answer.id === job.plan ? null : answer.id)}
        >
          {each.title.toLowerCase()}
        </Link>
      ))}
      {compared.map((each) => (
        <Link key={each.to} className="link" to={each.to}>
          {each.words}
        </Link>
      ))}
    </span>
  )
}
