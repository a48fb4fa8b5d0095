import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { freshId } from '../../api/freshId'
import { useUnits } from '../../app/units'
import { Rail } from '../../rail/Rail'
import { Loading } from '../../ui/States'
import { QUESTIONS, type Question } from '../../ui/Mark'
import { useFrame } from '../frame'
import { lookedAt } from './lookedAt'
import { Foot } from './Foot'
import { Ledger } from './Ledger'
import { selectedNow, useSelection } from './selection'
import { Unanswered } from './Unanswered'
import { FirstSetup } from './SetupCard'

const HoldPanel = lazy(() => import('../hold/HoldPanel').then((m) => ({ default: m.HoldPanel })))
const LoadPanel = lazy(() => import('../load/LoadPanel').then((m) => ({ default: m.LoadPanel })))
const StagePanel = lazy(() => import('./StagePanel').then((m) => ({ default: m.StagePanel })))

export function Setups() {
  const frame = useFrame()
  const { answer, evaluation, session } = frame
  const selection = useSelection(answer.plan, evaluation)
  const [question, setQuestion] = useState<Question | null>(null)
  const [adding, setAdding] = useState<string | null>(null)
  const { system, choose } = useUnits()
  const { order, operation, setup, pick } = selection

  const step = useCallback(
    (by: number) => {
      const at = order.findIndex((each) => each.id === selectedNow())
      const next =
        order[
          Math.min(
            order.length - 1,
            Math.max(0, at < 0 ? (by > 0 ? 0 : order.length - 1) : at + by),
          )
        ]
      if (next) pick(next.setup, next.id)
    },
    [order, pick],
  )
  const nextFinding = () => {
    const problems =
      evaluation?.findings.filter((f) => f.severity !== 'note' && !f.kept && f.operation) ?? []
    const places = problems
      .map((f) => order.findIndex((each) => each.id === f.operation))
      .filter((k) => k >= 0)
      .sort((a, b) => a - b)
    const at = order.findIndex((each) => each.id === selectedNow())
    const next = order[places.find((k) => k > at) ?? places[0] ?? -1]
    if (next) pick(next.setup, next.id)
  }
  const move = (by: number) => {
    const operation = selectedNow()
    const home = answer.plan.setups?.find((each) =>
      each.operations?.some((op) => op.id === operation),
    )
    const at = home?.operations?.findIndex((op) => op.id === operation) ?? -1
    if (!home || !operation || at < 0) return
    const setups = answer.plan.setups ?? []
    const place = setups.indexOf(home)
    const last = (home.operations?.length ?? 1) - 1
    const beyond = setups[place + by]
    if (at + by < 0 || at + by > last) {
      if (beyond)
        session.send([
          {
            do: 'move_operation',
            operation,
            setup: beyond.id,
            index: by > 0 ? 0 : (beyond.operations?.length ?? 0),
          },
        ])
      return
    }
    session.send([{ do: 'move_operation', operation, setup: home.id, index: at + by }])
  }
  const quiet = { preventDefault: true }
  useHotkeys('up', () => step(-1), quiet, [step])
  useHotkeys('down', () => step(1), quiet, [step])
  useHotkeys('bracketleft', () => step(-1), quiet, [step])
  useHotkeys('bracketright', () => step(1), quiet, [step])
  useHotkeys('period', nextFinding, quiet)
  useHotkeys('alt+up', () => move(-1), { preventDefault: true, enableOnFormTags: true })
  useHotkeys('alt+down', () => move(1), { preventDefault: true, enableOnFormTags: true })
  useHotkeys(
    'd',
    () => {
      const operation = selectedNow()
      if (operation) session.send([{ do: 'duplicate_operation', operation, new_id: freshId('o') }])
    },
    quiet,
  )
  useHotkeys(
    'delete',
    () => {
      const operation = selectedNow()
      if (operation) session.send([{ do: 'remove_operation', operation }])
    },
    quiet,
  )
  useHotkeys('a', () => setup && setAdding(setup), quiet)
  useHotkeys('u', () => choose(system === 'metric' ? 'inch' : 'metric'), quiet)
  useHotkeys('escape', () => (adding ? setAdding(null) : setup && pick(setup, null)), [
    adding,
    setup,
    pick,
  ])
  useHotkeys('mod+z', () => void session.undo(), { preventDefault: true })
  useHotkeys(['mod+shift+z', 'mod+y'], () => void session.redo(), {
    preventDefault: true,
  })
  useHotkeys(['1', '2', '3', '4', '5'], (event) => {
    const asked = QUESTIONS[Number(event.key) - 1] ?? null
    setQuestion((now) => (now === asked ? null : asked))
  })

  const has = (answer.plan.setups?.length ?? 0) > 0
  const quantity = answer.plan.quantity ?? 1
  const quietNow = useQuiet()
  const shown = lookedAt.use()
  const turns = evaluation?.setups.find((each) => each.id === setup)?.turns
  const stageKey = useMemo(() => `${answer.id}`, [answer.id])
  if (!evaluation)
    return <Loading what="the answers; this plan is being worked out for the first time" />
  if (evaluation.problem) return <Unanswered why={evaluation.problem} />
  if (!has) return <FirstSetup />
  return (
    <div className="grid h-full grid-rows-[128px_1fr_28px]">
      <Rail
        evaluation={evaluation}
        plan={answer.plan}
        setup={setup}
        operation={operation}
        quantity={quantity}
        onPick={pick}
      />
      <div className="grid min-h-0 grid-cols-[480px_1fr] max-[1100px]:grid-cols-[1fr]">
        <section
          aria-label="Drawing"
          className="min-h-0 border-r border-hair-strong max-[1100px]:hidden"
        >
          <Suspense fallback={<Loading what="the drawing" />}>
            {shown === 'hold' && setup ? (
              <HoldPanel setup={setup} operation={operation} onPick={(op) => pick(setup, op)} />
            ) : shown === 'table' && setup && !turns ? (
              <LoadPanel setup={setup} />
            ) : quietNow ? (
              <StagePanel key={stageKey} setup={setup} operation={operation} />
            ) : (
              <Loading what="the drawing" />
            )}
          </Suspense>
        </section>
        <Ledger selection={selection} question={question} adding={adding} setAdding={setAdding} />
      </div>
      <Foot
        question={question}
        nextFinding={nextFinding}
        onAdd={() => setAdding(setup ?? evaluation.setups.at(-1)?.id ?? null)}
      />
    </div>
  )
}

// The drawing starts when the operations have been painted: bringing up its canvas would hold them back.
function useQuiet() {
  const [quiet, setQuiet] = useState(false)
  useEffect(() => {
    const later =
      window.requestIdleCallback?.(() => setQuiet(true), { timeout: 300 }) ??
      window.setTimeout(() => setQuiet(true), 100)
    return () => (window.cancelIdleCallback ?? window.clearTimeout)(later)
  }, [])
  return quiet
}
