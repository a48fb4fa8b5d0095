import type { Edit, Plan } from '../api/client'
import type { PlanSession, SessionState } from '../api/planSession'

// What stands between the planner and the stored plan: no line, somebody else's change, an edit that was refused.
export function Trouble({
  session,
  state,
  plan,
}: {
  session: PlanSession
  state: SessionState
  plan: Plan
}) {
  if (state.conflict) {
    const { conflict } = state
    const meets = conflict.meets.length > 0
    return (
      <div
        role="alert"
        className="flex flex-wrap items-center gap-3 border-b border-amber-edge bg-[#fff6dd] px-4 py-2"
      >
        <p className="max-w-2xl">
          <b>{conflict.sentence}</b> Your change ({said(conflict.mine, plan)}) is not stored yet.{' '}
          {!conflict.applies
            ? `It no longer fits: ${conflict.why}`
            : meets
              ? 'Both of you touched the same place.'
              : 'It touches nothing they changed.'}
        </p>
        {conflict.applies && (
          <button className="press" onClick={() => void session.putMineOnTop()}>
            Put mine on top
          </button>
        )}
        <button className="press-2" onClick={() => void session.takeTheirs()}>
          Take theirs, keep a copy of mine
        </button>
      </div>
    )
  }
  if (state.offline)
    return (
      <p role="alert" className="border-b border-hair-strong bg-surface px-4 py-1.5">
        The server does not answer.{' '}
        {state.waiting > 0
          ? `${state.waiting} change${state.waiting > 1 ? 's wait' : ' waits'} here and will be sent`
          : 'Your work is stored'}
        ; trying again …
      </p>
    )
  if (state.problem)
    return (
      <div
        role="alert"
        className="flex items-center gap-3 border-b border-red bg-red-wash px-4 py-1.5 text-red-edge"
      >
        <span>{state.problem}</span>
        <button className="link ml-auto" onClick={session.clear}>
          Close
        </button>
      </div>
    )
  if (state.kept)
    return (
      <div className="flex items-center gap-3 border-b border-hair-strong bg-surface px-4 py-1.5">
        <span>Your copy: {said(state.kept, plan)}.</span>
        <button className="press-2" onClick={() => void session.putKept()}>
          Apply it now
        </button>
        <button className="link" onClick={session.dropKept}>
          Throw it away
        </button>
      </div>
    )
  return <div />
}

// An edit in a few words: what it touches and the values it sets.
function said(edits: Edit[], plan: Plan): string {
  return edits
    .map((edit) => {
      if (edit.do !== 'change') return edit.do.replaceAll('_', ' ')
      const [what, id] = String(edit.on).split(':')
      const setup = plan.setups?.find(
        (each) => each.id === id || each.operations?.some((op) => op.id === id),
      )
      const place = setup ? (setup.operations?.findIndex((op) => op.id === id) ?? -1) : -1
      const where = what === 'operation' && place >= 0 ? `operation ${10 * (place + 1)}` : what
      return `${where}: ${Object.entries(edit.fields as Record<string, unknown>)
        .map(
          ([name, value]) =>
            `${name.replaceAll('_', ' ')} ${typeof value === 'object' ? '' : String(value)}`,
        )
        .join(', ')}`
    })
    .join('; ')
}
