import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import type { CalculatorWords } from '../../api/client'
import { useCalculators } from '../../api/hooks'
import { Empty, Failed, Loading } from '../../ui/States'
import { CalculatorPage } from './CalculatorPage'
import { HoleMethods } from './HoleMethods'
import { SlopeMethods } from './SlopeMethods'

const ORDER = [
  'Milling',
  'Holes',
  'Threads',
  'Turning',
  'Finish',
  'Reach',
  'Hold',
  'Setup',
  'Measure',
  'Time',
]

// Found by what somebody wants to know, not by what the formula is called.
export function Bench() {
  const { name } = useParams()
  const calculators = useCalculators()
  if (calculators.error)
    return <Failed error={calculators.error} again={() => void calculators.refetch()} />
  if (!calculators.data) return <Loading what="the bench" />
  if (name === 'hole-methods') return <HoleMethods />
  if (name === 'slope-methods') return <SlopeMethods />
  if (!name) return <Index all={calculators.data} />
  const known = calculators.data.find((each) => each.name === name)
  if (!known)
    return (
      <Empty title="There is no such calculator">
        Go to the{' '}
        <Link className="link" to="/bench">
          bench
        </Link>{' '}
        and look for what you want to know.
      </Empty>
    )
  return <CalculatorPage key={name} known={known} />
}

// These compare what the shop has, so they are no calculators, but somebody looks for them here.
const HOLES = {
  name: 'hole-methods',
  title: 'Drill, insert drill, helix, boring, plunging on every machine',
  group: 'Holes',
  text: 'counterbore deep pilot pocket stall',
  asks: [
    'Which way to make this hole?',
    'Can this spindle do it at all?',
    'Where would another way be quicker?',
  ],
  parameters: [] as CalculatorWords['parameters'],
}

const SLOPES = {
  name: 'slope-methods',
  title: 'Special tool, ball or bull nose in steps, tilted standard tool',
  group: 'Finish',
  text: 'chamfer angle bevel tilt scallop price days',
  asks: ['Which way to a chamfer at an odd angle?', 'From how many parts does a special tool pay?'],
  parameters: [] as CalculatorWords['parameters'],
}
const COMPARED = [HOLES, SLOPES]

function Index({ all }: { all: CalculatorWords[] }) {
  const [params, setParams] = useSearchParams()
  const [text, setText] = useState(params.get('find') ?? '')
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = [...all, ...COMPARED].filter((each) => {
    const words = [
      each.name,
      each.title,
      each.group,
      each.text,
      ...each.asks,
      ...each.parameters.map((p) => p.name.replaceAll('_', ' ')),
    ]
      .join(' ')
      .toLowerCase()
    return wanted.every((word) => words.includes(word))
  })
  const groups = ORDER.map(
    (group) => [group, found.filter((each) => each.group === group)] as const,
  ).filter(([, members]) => members.length > 0)
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-5">
      <div className="mb-4 flex items-baseline gap-5">
        <h1 className="text-big font-semibold">Bench</h1>
        <input
          aria-label="What do you want to know?"
          autoFocus
          placeholder="What do you want to know? stall, pilot hole, how often, off centre …"
          className="field min-h-8 w-[460px] text-lead"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
            setParams(event.target.value ? { find: event.target.value } : {}, { replace: true })
          }}
        />
        <span className="text-ink-2">
          <span className="n">{found.length}</span> of{' '}
          <span className="n">{all.length + COMPARED.length}</span>
        </span>
      </div>
      {found.length === 0 && (
        <Empty title="Nothing answers that yet">
          Try one word of it: power, drill, thread, feed, angle, grip, time.
        </Empty>
      )}
      <div className="columns-2 gap-10 max-[900px]:columns-1">
        {groups.map(([group, members]) => (
          <section key={group} className="mb-5 break-inside-avoid">
            <h2 className="border-b border-ink pb-0.5 text-lead font-semibold">{group}</h2>
            <ul>
              {members.map((each) => (
                <li key={each.name} className="border-b border-hair">
                  <Link to={`/bench/${each.name}`} className="block py-1.5 hover:bg-mark-wash">
                    <span className="font-semibold">{each.asks[0]}</span>
                    <span className="block text-small text-ink-2">
                      {each.title}
                      {each.asks.length > 1 && <> · {each.asks.slice(1).join(' ')}</>}
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  )
}
