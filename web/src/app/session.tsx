import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { api, ask } from '../api/client'

export const useSession = () =>
  useQuery({
    queryKey: ['session'],
    meta: { shown: true },
    queryFn: () => ask(api.GET('/api/session')),
    staleTime: 60_000,
  })
export const useRights = (): Set<string> => new Set(useSession().data?.user?.rights ?? [])

export function SignIn() {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const next = new URLSearchParams(useLocation().search).get('next')
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const enter = useMutation({
    mutationFn: () => ask(api.POST('/api/session', { body: { name, password } })),
    onSuccess: (session) => {
      cache.clear()
      cache.setQueryData(['session'], session)
      if (next?.startsWith('/s/')) window.location.assign(next)
      else
        void navigate(
          session.user?.role === 'operator'
            ? '/floor'
            : session.user?.unset.length && session.user.rights.includes('library')
              ? '/first-run'
              : '/jobs',
          { replace: true },
        )
    },
  })
  return (
    <main className="grid h-full grid-cols-[1fr_420px] max-md:grid-cols-1">
      <div className="on-dark bg-mark text-scribe relative overflow-hidden max-md:hidden">
        <svg
          viewBox="0 0 860 800"
          className="absolute inset-0 h-full w-full"
          aria-hidden
          preserveAspectRatio="xMidYMid slice"
        >
          <g fill="none" stroke="#dfe7ff" strokeWidth="1.2" opacity=".8">
            <path d="M0 560h860M180 0v800M180 560a300 300 0 0 1 300-300M480 0v800M0 260h860" />
            <path d="M300 560v-130a120 120 0 0 1 120-120h190v250z" strokeWidth="2" />
            <circle cx="420" cy="430" r="46" strokeWidth="2" />
            <path d="M360 430h120M420 370v120" strokeDasharray="14 4 3 4" />
            {Array.from({ length: 43 }, (_, k) => (
              <path key={k} d={`M${k * 20} 560v${k % 5 ? 6 : 12}`} />
            ))}
          </g>
        </svg>
        <p className="absolute bottom-10 left-[27%] max-w-sm text-[22px] leading-tight text-white">
          Every setup planned, checked and on one sheet, before any metal is cut.
        </p>
      </div>
      <form
        className="flex flex-col justify-center gap-3 px-14"
        onSubmit={(event) => {
          event.preventDefault()
          enter.mutate()
        }}
      >
        <h1 className="mb-3 text-[26px] font-semibold">Fabrotax</h1>
        <label className="flex flex-col gap-1">
          <span className="text-ink-2">Name</span>
          <input
            className="field min-h-9 text-head"
            autoFocus
            autoComplete="username"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="flex flex-col gap-1">
          <span className="text-ink-2">Password</span>
          <input
            className="field min-h-9 text-head"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </label>
        {enter.error && (
          <p role="alert" className="border-l-2 border-red pl-2 text-red-edge">
            {enter.error.message}
          </p>
        )}
        <button
          className="press mt-2 min-h-10 text-head"
          disabled={enter.isPending || !name || !password}
        >
          Sign in
        </button>
      </form>
    </main>
  )
}
