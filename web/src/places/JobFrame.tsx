import { NavLink, Outlet, useParams } from 'react-router'
import { type Finding, type Job, Refused } from '../api/client'
import { useJob, useLibrary, usePlan, useVariants } from '../api/hooks'
import { Palette } from '../app/palette'
import { Shell } from '../app/shell'
import { clock } from '../ui/format'
import { Mark } from '../ui/Mark'
import { Ordered, Three } from '../ui/Measures'
import { roundWhenDone } from '../ui/rounds'
import { Failed, Loading } from '../ui/States'
import type { Frame } from './frame'
import { jobAt } from './jobs/jobAt'
import { Trouble } from './Trouble'
import { Unreadable } from './Unreadable'

export function JobFrame() {
  const { number = '', variant } = useParams()
  const job = useJob(number)
  if (job.error)
    return (
      <Shell>
        <Failed error={job.error} again={() => void job.refetch()} />
      </Shell>
    )
  if (!job.data)
    return (
      <Shell>
        <Loading what={number} />
      </Shell>
    )
  const plan = variant === undefined ? job.data.plan : Number(variant)
  return <Opened key={plan} job={job.data} id={plan} />
}

function Opened({ job, id }: { job: Job; id: number }) {
  const plan = usePlan(id)
  const title = (
    <>
      <h1 className="flex min-w-0 items-center gap-3 text-body font-normal">
        <span className="n whitespace-nowrap font-semibold text-white">{job.number}</span>
        {job.revision && (
          <span className="whitespace-nowrap text-scribe">
            rev <b className="n text-white">{job.revision}</b>
          </span>
        )}
        <span className="truncate font-semibold text-white">{job.title}</span>
      </h1>
      {plan.data && (
        <span
          className="flex items-baseline gap-2 whitespace-nowrap border-l border-mark-lift pl-3"
          aria-live="polite"
        >
          {id !== job.plan && <Aside number={job.number} plan={id} />}
          Draft <b className="n text-white">{plan.data.revision}</b>
          <span className="text-small text-scribe-dim">
            {plan.state.waiting
              ? 'saving …'
              : `saved ${new Date(plan.data.at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`}
          </span>
        </span>
      )}
    </>
  )
  if (plan.error instanceof Refused && plan.error.problem.unreadable)
    return (
      <Shell middle={title}>
        <Unreadable plan={id} problem={plan.error.problem} again={() => void plan.refetch()} />
      </Shell>
    )
  if (plan.error)
    return (
      <Shell middle={title}>
        <Failed error={plan.error} again={() => void plan.refetch()} />
      </Shell>
    )
  if (!plan.data)
    return (
      <Shell middle={title}>
        <Loading what="the plan" />
      </Shell>
    )
  const frame: Frame = {
    job,
    base: jobAt(job.number, id === job.plan ? null : id),
    answer: plan.data,
    evaluation: plan.evaluation,
    working: plan.working,
    session: plan.session,
    state: plan.state,
  }
  return (
    <Shell middle={title}>
      <div className="grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[34px_auto_1fr]">
        <Steps frame={frame} />
        <Trouble session={plan.session} state={plan.state} plan={plan.data.plan} />
        <div className="min-h-0">
          <Outlet context={frame} />
        </div>
      </div>
      <Palette frame={frame} />
    </Shell>
  )
}

// Which of the job's plans is looked at, where the job goes by another.
function Aside({ number, plan }: { number: string; plan: number }) {
  const { data } = useVariants(number)
  const name = data?.find((each) => each.plan === plan)?.name
  return (
    <b className="border border-brass-on-dark px-1.5 text-brass-on-dark">
      {name ?? '…'}, not the job’s own
    </b>
  )
}

function Steps({ frame: { job, answer, evaluation, working } }: { frame: Frame }) {
  const { data: library } = useLibrary()
  const named = (kind: string, key: string) =>
    (library?.items.find((item) => item.kind === kind && item.key === key)?.data.name as
      string | undefined) ?? key
  const open = evaluation?.findings.filter((f) => !f.kept) ?? []
  const stops = open.filter((f) => f.severity === 'stop').length
  const machines = [...new Set(answer.plan.setups?.map((setup) => setup.machine))]
  const place = ({ isActive }: { isActive: boolean }) =>
    `flex h-full items-center gap-1.5 text-lead ${isActive ? 'border-b-2 border-mark font-semibold' : 'border-b-2 border-transparent text-ink-2 hover:text-ink'}`
  return (
    <div className="flex items-center gap-3 border-b border-hair bg-paper px-4">
      <nav
        aria-label="Steps"
        className="flex h-full shrink-0 items-center gap-2.5 whitespace-nowrap"
      >
        <NavLink to="part" className={place}>
          Part <Counted findings={open.filter((f) => !f.setup)} />
        </NavLink>
        <span className="text-quiet">/</span>
        <NavLink to="setups" className={place}>
          Setups <Counted findings={open.filter((f) => f.setup)} />
        </NavLink>
        <span className="text-quiet">/</span>
        <NavLink to="order" className={place}>
          Order
        </NavLink>
        <span className="text-quiet">/</span>
        <NavLink to="time" className={place}>
          Time
        </NavLink>
        <span className="text-quiet">/</span>
        <NavLink to="compare" className={place}>
          Compare
        </NavLink>
        <span className="text-quiet">/</span>
        <NavLink to="release" className={place}>
          Release{' '}
          {stops > 0 && (
            <span className="text-small font-normal text-ink-3">
              waits for <span className="n">{stops}</span>
            </span>
          )}
        </NavLink>
        {working && (
          <span role="status" className="text-small text-ink-3">
            working out …
          </span>
        )}
      </nav>
      <div className="ml-auto flex min-w-0 items-center gap-2.5 overflow-hidden whitespace-nowrap text-small text-ink-2">
        {answer.plan.material && <span>{named('materials', answer.plan.material)}</span>}
        {evaluation && !evaluation.problem && (
          <>
            <span className="border-l border-hair pl-2.5">
              blank <Ordered of={evaluation.stock_words} />
            </span>
            <span className="border-l border-hair pl-2.5">
              done{' '}
              <Three
                size={evaluation.part_size}
                round={roundWhenDone(
                  evaluation.stock_round,
                  evaluation.stock_size,
                  evaluation.part_size,
                )}
              />
            </span>
          </>
        )}
        <span className="border-l border-hair pl-2.5">
          <span className="n">{answer.plan.quantity ?? 1}</span> off
        </span>
        {machines.length > 0 && (
          <span className="border-l border-hair pl-2.5">
            {machines.map((key) => named('machines', key)).join(', ')}
          </span>
        )}
        {evaluation && evaluation.one_part_s > 0 && (
          <span className="border-l border-hair pl-2.5">
            one part{' '}
            <span className={`n ${working ? 'text-ink-3' : 'text-ink'}`}>
              {clock(evaluation.one_part_s)}
            </span>
          </span>
        )}
        {job.due && (
          <span className="border-l border-hair pl-2.5">
            due <span className="n">{job.due}</span>
          </span>
        )}
      </div>
    </div>
  )
}

// How many of a step's findings will not work, and how many are to be looked at.
function Counted({ findings }: { findings: Finding[] }) {
  const stops = findings.filter((f) => f.severity === 'stop').length
  const looks = findings.filter((f) => f.severity === 'look').length
  return (
    <>
      {stops > 0 && (
        <>
          <Mark state="stop" size={10} label={`${stops} will not work`} />
          <span className="n text-small">{stops}</span>
        </>
      )}
      {looks > 0 && (
        <>
          <Mark state="look" size={11} label={`${looks} to look at`} />
          <span className="n text-small">{looks}</span>
        </>
      )}
    </>
  )
}
