import { useQuery } from '@tanstack/react-query'
import { Navigate, NavLink } from 'react-router'
import { api, ask } from '../../api/client'
import { useSession } from '../../app/session'
import { Failed, Loading } from '../../ui/States'

// The operator's way in: the newest release of each job, large enough for gloves.
export function Floor() {
  const session = useSession()
  const { data, error, refetch } = useQuery({
    queryKey: ['floor'],
    meta: { shown: true },
    queryFn: () => ask(api.GET('/api/floor')),
    refetchInterval: (asked) =>
      asked.state.data?.some((each) => each.drawing === 'drawing') ? 2_000 : 30_000,
    enabled: !!session.data?.user,
  })
  if (session.data && !session.data.user) return <Navigate to="/sign-in?next=/floor" replace />
  if (error) return <Failed error={error} again={() => void refetch()} />
  if (!data) return <Loading what="the released sheets" />
  return (
    <main className="on-dark min-h-full bg-night px-10 py-8 text-night-ink">
      <header className="mb-6 flex items-baseline gap-6">
        <h1 className="text-[32px] font-semibold">Sheets on the floor</h1>
        <span className="text-[18px] text-night-ink-2">
          {data.length} job{data.length === 1 ? '' : 's'}
        </span>
        <NavLink
          to="/jobs"
          className="ml-auto flex min-h-12 items-center text-[18px] underline underline-offset-4"
        >
          Jobs
        </NavLink>
      </header>
      {data.length === 0 && (
        <p className="text-[20px] text-night-ink-2">
          Nothing is released yet. An approver releases a plan; its sheets then stand here.
        </p>
      )}
      <ul className="border-t border-night-hair">
        {data.map((each) => (
          <li
            key={each.code}
            className="grid grid-cols-[130px_1fr_auto] items-center gap-6 border-b border-night-hair py-3"
          >
            <span className="n text-[26px] font-semibold">{each.job}</span>
            <span>
              <span className="block text-[22px]">{each.title}</span>
              <span className="text-[17px] text-night-ink-2">
                Release <span className="n">{each.number}</span>,{' '}
                {new Date(each.at).toLocaleDateString([], { dateStyle: 'medium' })}
              </span>
            </span>
            <span className="flex gap-3">
              {each.sheets.map((setup) => (
                <a
                  key={setup}
                  href={`/s/${each.code}/${setup}`}
                  className="flex min-h-14 min-w-32 items-center justify-center border border-night-ink-2 bg-night-3 text-[20px] font-semibold hover:bg-mark-lift"
                >
                  Setup <span className="n ml-2">{setup}</span>
                </a>
              ))}
              {each.drawing === 'drawing' && (
                <span role="status" className="text-[18px] text-night-ink-2">
                  being drawn …
                </span>
              )}
              {each.drawing === 'failed' && (
                <span role="alert" className="text-[18px]">
                  could not be drawn: tell the planner
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </main>
  )
}
