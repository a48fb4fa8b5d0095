import { useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useLocation } from 'react-router'
import { useLibrary } from '../../api/hooks'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { Figure } from '../../ui/Figure'
import { FindingRow } from '../../ui/FindingRow'
import { NumberField } from '../../ui/NumberField'
import { useFrame } from '../frame'
import { Chains } from './Chains'
import { Coverage } from './Coverage'
import { facesOf, useCoverage } from './coverage'
import { FarKey } from './FarKey'
import { Edges } from './Edges'
import { Elsewhere } from './Elsewhere'
import { Features } from './Features'
import type { Feature } from './feature'
import { JobFields } from './JobFields'
import { PlanFiles } from './PlanFiles'
import { Requirements } from './Requirements'
import { Solid } from './Solid'
import { StockFields } from './StockFields'
import { useStepFile } from './useStepFile'
import { TypedFeatures } from './TypedFeatures'
import { MeasuredFrom } from './MeasuredFrom'
import { Picture } from './Picture'

export function Part() {
  const { answer, evaluation, working, session } = useFrame()
  const { data: library } = useLibrary()
  useHotkeys('mod+z', () => void session.undo(), { preventDefault: true })
  useHotkeys(['mod+shift+z', 'mod+y'], () => void session.redo(), {
    preventDefault: true,
  })
  const { plan } = answer
  // with the job itself
  const begun = useLocation().state as { reading?: number; refused?: string } | null
  const file = useStepFile(answer.id, 'part', begun)
  const coverage = useCoverage()
  const faces = useMemo(() => facesOf(coverage.data), [coverage.data])
  const [coloured, setColoured] = useState(true)
  const materials = (library?.items ?? []).filter((item) => item.kind === 'materials')
  const change = (fields: Record<string, unknown>) =>
    session.edit([{ do: 'change', on: 'plan', fields }])
  return (
    <div className="grid h-full grid-cols-[480px_1fr]">
      <section
        aria-label="The finished part"
        className="grid min-h-0 grid-rows-[1fr_auto] border-r border-hair-strong"
      >
        <div className="relative min-h-0">
          <Picture far={coloured ? faces : undefined} />
          <FarKey coverage={coverage} shown={coloured} onShow={setColoured} />
        </div>
        <dl className="grid grid-cols-4 border-t border-hair-strong [&>div]:px-4 [&>div]:py-1.5 [&_dt]:text-small [&_dt]:text-ink-2">
          <div>
            <dt>Size</dt>
            <dd>
              {evaluation
                ? evaluation.part_size.map((each, k) => (
                    <span key={k}>
                      {k > 0 && ' × '}
                      <Figure value={each} quantity="size" trim bare />
                    </span>
                  ))
                : '–'}
            </dd>
          </div>
          <div>
            <dt>Volume</dt>
            <dd>
              <Figure value={evaluation?.part_volume_mm3} quantity="volume" />
            </dd>
          </div>
          <div>
            <dt>Finished weight</dt>
            <dd>
              <Figure value={evaluation?.part_mass_kg} quantity="mass" />
            </dd>
          </div>
          <div>
            <dt>Blank weight</dt>
            <dd>
              <Figure value={evaluation?.stock_mass_kg} quantity="mass" />
            </dd>
          </div>
        </dl>
      </section>
      <section className="relative min-h-0 overflow-y-auto bg-paper">
        <Block title="Job">
          <JobFields />
          <PlanFiles />
        </Block>
        <Block title="Solid">
          <Solid file={file} />
        </Block>
        <Block title="Material and quantity">
          <div className="flex items-center gap-5">
            <Choice
              label="Material"
              value={plan.material ?? ''}
              options={[
                { value: '', label: 'not chosen' },
                ...materials.map((item) => ({
                  value: item.key,
                  label: String(item.data.name),
                  aside: `ISO ${String(item.data.iso_group)}`,
                })),
              ]}
              onChange={(material) => void quietly(change({ material }))}
            />
            <NumberField
              label="Quantity"
              value={plan.quantity ?? 1}
              quantity="count"
              onCommit={(value) => change({ quantity: Math.round(value ?? 1) })}
            />
          </div>
        </Block>
        <Block title="Blank">
          <StockFields />
        </Block>
        <Block title={plan.part?.geometry ? 'Features found' : 'Features'}>
          {!plan.part?.geometry && <TypedFeatures />}
          <Features
            features={answer.features as Feature[]}
            inBlank={evaluation?.in_blank ?? []}
            working={working}
            onLay={plan.part?.geometry ? (face) => void file.lay(face) : undefined}
          />
        </Block>
        <Block title="What the drawing asks" wide>
          <Requirements />
          <MeasuredFrom />
          <Edges />
          <OfThePart />
        </Block>
        <Block title="Elsewhere">
          <Elsewhere />
        </Block>
        <Chains />
        <Block title="How far each place is" wide>
          <Coverage coverage={coverage} />
        </Block>
      </section>
    </div>
  )
}

// Findings of the plan as a whole: what of the drawing nobody makes or measures.
function OfThePart() {
  const { answer, evaluation, session } = useFrame()
  const found = evaluation?.findings.filter((f) => !f.setup && f.severity !== 'note') ?? []
  return (
    <>
      {found.map((finding) => (
        <div key={finding.key} className="border-t border-hair py-2">
          <FindingRow
            finding={finding}
            plan={answer.id}
            revision={answer.revision}
            session={session}
          />
        </div>
      ))}
    </>
  )
}

function Block({
  title,
  children,
  wide = false,
}: {
  title: string
  children: React.ReactNode
  wide?: boolean
}) {
  return (
    <section
      className={`${wide ? '' : 'grid grid-cols-[130px_1fr] gap-x-4'} border-b border-hair px-5 py-3`}
    >
      <h2 className={`font-semibold ${wide ? 'mb-1.5' : ''}`}>{title}</h2>
      <div className="min-w-0">{children}</div>
    </section>
  )
}
