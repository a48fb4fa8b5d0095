import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { NavLink, Navigate, useLocation, useNavigate } from 'react-router'
import { api, ask, Refused } from '../api/client'
import { useWords } from '../api/hooks'
import { Failed, Loading } from '../ui/States'
import { useSession } from './session'
import { Unread } from './Unread'
import { useUnits } from './units'

// The slim bar on every page; ``middle`` is what the page is about.
export function Shell({ middle, children }: { middle?: ReactNode; children: ReactNode }) {
  const session = useSession()
  const words = useWords()
  const at = useLocation()
  if (session.isPending || words.isPending) return <Loading what="Fabrotax" />
  if (session.error) return <Failed error={session.error} again={() => void session.refetch()} />
  if (words.error) return <Failed error={words.error} again={() => void words.refetch()} />
  if (!session.data?.user)
    return <Navigate to={`/sign-in?next=${encodeURIComponent(at.pathname)}`} replace />
  return (
    <div className="grid h-full grid-rows-[36px_auto_1fr] print:block print:h-auto">
      <header className="on-dark print:hidden relative flex items-center gap-5 bg-mark px-4 text-scribe">
        <NavLink to="/jobs" className="flex items-center gap-2 text-head font-semibold text-white">
          <svg viewBox="0 0 24 24" width="19" height="19" aria-hidden>
            <path
              d="M4 19h16M7 21V5M7 12a7 7 0 0 1 7 7M3.5 5H18"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.6"
            />
          </svg>
          Fabrotax
        </NavLink>
        <nav aria-label="Places" className="flex h-full items-center gap-4">
          {[
            ['/jobs', 'Jobs'],
            ['/library', 'Library'],
            ['/bench', 'Bench'],
            ['/floor', 'Floor'],
            ...(session.data.user.rights.includes('record') ? [['/record', 'Record']] : []),
          ].map(([to, name]) => (
            <NavLink
              key={to}
              to={to ?? ''}
              className={({ isActive }) =>
                `relative flex h-full items-center ${isActive ? 'font-semibold text-white after:absolute after:inset-x-0 after:bottom-1 after:h-px after:bg-scribe' : 'hover:text-white'}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        {middle && (
          <div className="flex h-full min-w-0 items-center gap-3 border-l border-mark-lift pl-5">
            {middle}
          </div>
        )}
        <div className="ml-auto flex items-center gap-4">
          <UnitsSwitch usual={session.data.user.units} />
          <Who name={session.data.user.name} shop={session.data.user.shop} />
        </div>
        <div
          aria-hidden
          className="pointer-events-none absolute inset-x-0 bottom-0 h-[3px] opacity-40 [background-image:repeating-linear-gradient(90deg,var(--color-scribe-dim)_0_1px,transparent_1px_16px)]"
        />
      </header>
      <div className="print:hidden">
        <Unread />
      </div>
      <main className="relative min-h-0 overflow-auto">{children}</main>
    </div>
  )
}

function UnitsSwitch({ usual }: { usual: string }) {
  const { system, choose, start } = useUnits()
  useEffect(() => start(usual === 'inch' ? 'inch' : 'metric'), [usual, start])
  return (
    <div role="group" aria-label="Units" className="flex border border-mark-lift">
      {(['metric', 'inch'] as const).map((each) => (
        <button
          key={each}
          aria-pressed={system === each}
          onClick={() => choose(each)}
          className={`n px-2 text-small leading-5 ${system === each ? 'bg-scribe text-mark' : 'text-scribe hover:text-white'}`}
        >
          {each === 'metric' ? 'mm' : 'in'}
        </button>
      ))}
    </div>
  )
}

function Who({ name, shop }: { name: string; shop: string }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  async function leave() {
    try {
      await ask(api.DELETE('/api/session'))
    } catch (error) {
      if (!(error instanceof Refused)) throw error
    }
    cache.clear()
    void navigate('/sign-in')
  }
  return (
    <Menu>
      <MenuButton className="flex items-baseline gap-2 hover:text-white">
        <span className="capitalize">{name}</span>{' '}
        <span className="text-small text-scribe-dim">{shop}</span>
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-40 border border-ink-3 bg-paper py-1 text-ink outline-none"
      >
        <MenuItem>
          <button
            className="block w-full px-4 py-1.5 text-left data-focus:bg-mark data-focus:text-white"
            onClick={() => void leave()}
          >
            Sign out
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  )
}
