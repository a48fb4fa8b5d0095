import { useState } from 'react'
import { NavLink, useMatch, useNavigate, useParams, useSearchParams } from 'react-router'
import type { Item } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { useRights } from '../../app/session'
import { Empty, Failed, Loading } from '../../ui/States'
import { COLUMNS } from './columns'
import { FixtureFromFile } from './FixtureFromFile'
import { ItemPage } from './ItemPage'
import { MachineTimes } from './MachineTimes'
import { ToolTable } from './ToolTable'

const KINDS: [string, string][] = [
  ['machines', 'Machines'],
  ['assemblies', 'Tool assemblies'],
  ['tools', 'Tools'],
  ['holders', 'Holders'],
  ['holdings', 'Workholding'],
  ['clamps', 'Clamps'],
  ['materials', 'Materials'],
  ['settings', 'Shop settings'],
]
const FROM_FILE = 'from-a-file'

export function Library() {
  const { kind = 'machines', itemKey } = useParams()
  const library = useLibrary()
  const may = useRights().has('library')
  const timed = useMatch('/library/machines/:itemKey/times')
  const [find, setFind] = useState('')
  const like = useSearchParams()[0].get('like')
  if (library.error) return <Failed error={library.error} again={() => void library.refetch()} />
  if (!library.data) return <Loading what="the library" />
  const items = library.data.items.filter((item) => item.kind === kind)
  const opened = kind === 'settings' ? items[0] : items.find((item) => item.key === itemKey)
  const words = find.toLowerCase()
  const shown = items.filter((item) =>
    `${item.key} ${String(item.data.name)}`.toLowerCase().includes(words),
  )
  return (
    <div className="flex min-h-full flex-col">
      <nav
        aria-label="Library"
        className="flex h-[34px] shrink-0 items-center gap-5 border-b border-hair bg-paper px-6"
      >
        {KINDS.map(([key, name]) => (
          <NavLink
            key={key}
            to={`/library/${key}`}
            className={({ isActive }) =>
              `flex h-full items-center text-lead ${isActive ? 'border-b-2 border-mark font-semibold' : 'border-b-2 border-transparent text-ink-2 hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      {opened && timed ? (
        <MachineTimes machine={opened.key} />
      ) : opened ? (
        <ItemPage
          key={opened.kind + opened.key + opened.revision}
          item={opened}
          all={library.data.items}
        />
      ) : itemKey ? (
        kind === 'holdings' && itemKey === FROM_FILE ? (
          <FixtureFromFile />
        ) : itemKey === 'new' ? (
          <ItemPage item={fresh(kind, items, like)} all={library.data.items} />
        ) : (
          <Empty title="It is not in the library">
            There is nothing called {itemKey} among the {kind}.
          </Empty>
        )
      ) : (
        <div className="px-6 py-4">
          <h1 className="sr-only">{KINDS.find(([key]) => key === kind)?.[1]}</h1>
          <div className="mb-3 flex flex-wrap items-center gap-4">
            <input
              aria-label={`Find among the ${kind}`}
              className="field w-64"
              placeholder="Find"
              value={find}
              onChange={(event) => setFind(event.target.value)}
            />
            <span className="text-ink-2">
              <span className="n">{shown.length}</span> of <span className="n">{items.length}</span>
            </span>
            {may && kind === 'tools' && <ToolTable />}
            {may && kind === 'holdings' && (
              <NavLink to={`/library/holdings/${FROM_FILE}`} className="link">
                A fixture from a STEP file
              </NavLink>
            )}
            {may && items.length > 0 && (
              <NavLink
                to={`/library/${kind}/new`}
                className="press ml-auto inline-flex items-center"
              >
                Add one like the first
              </NavLink>
            )}
          </div>
          {shown.length === 0 ? (
            <Empty title="Nothing here">
              {items.length === 0
                ? 'The library has none of these yet.'
                : `Nothing matches “${find}”.`}
            </Empty>
          ) : (
            <Table kind={kind} items={shown} all={library.data.items} />
          )}
        </div>
      )}
    </div>
  )
}

function fresh(kind: string, items: Item[], key: string | null): Item {
  const like = items.find((item) => item.key === key) ?? items[0]
  return {
    kind,
    key: '',
    data: { ...structuredClone(like?.data ?? {}), key: '', name: '' },
    revision: 0,
    changed_at: '',
    used_by: [],
    problem: '',
  }
}

function Table({ kind, items, all }: { kind: string; items: Item[]; all: Item[] }) {
  const navigate = useNavigate()
  const columns = COLUMNS[kind] ?? []
  return (
    <table className="w-full border-t border-ink">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1.5 [&>th]:pr-4">
          <th>Name</th>
          {columns.map(([head]) => (
            <th key={head}>{head}</th>
          ))}
          <th>Used by</th>
        </tr>
      </thead>
      <tbody>
        {items.map((item) => (
          <tr
            key={item.key}
            className="cursor-pointer [&>td]:border-b [&>td]:border-hair [&>td]:py-1.5 [&>td]:pr-4 hover:bg-mark-wash"
            onClick={() => void navigate(`/library/${kind}/${item.key}`)}
          >
            <td>
              <NavLink
                to={`/library/${kind}/${item.key}`}
                className="font-semibold"
                onClick={(event) => event.stopPropagation()}
              >
                {String(item.data.name)}
              </NavLink>
            </td>
            {item.problem ? (
              <td colSpan={columns.length} className="text-red-edge">
                {item.problem}
              </td>
            ) : (
              columns.map(([head, show]) => (
                <td key={head} className="max-w-72 truncate">
                  {show(item.data, all)}
                </td>
              ))
            )}
            <td className="n text-small">{item.used_by.join(', ')}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
