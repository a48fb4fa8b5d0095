import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask, type Item, Refused } from '../../api/client'
import { useWords } from '../../api/hooks'
import { useRights } from '../../app/session'
import { CurveDrawing } from './CurveDrawing'
import { AssemblyDrawing } from './AssemblyDrawing'
import { FixtureDrawing } from './FixtureDrawing'
import { bodyOf } from './fixture'
import { ToolDrawing } from './ToolDrawing'
import { branch, type Schema } from './schema'
import { SchemaForm } from './SchemaForm'

const PLAIN = new Set(['key'])
// of a fixture: what its drawing shows
const DRAWN = new Set(['key', 'blocks', 'seats', 'locators', 'threads'])

// One thing of the library. What a plan stands on says so, and can't be taken away.
export function ItemPage({ item, all }: { item: Item; all: Item[] }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const may = useRights().has('library')
  const { data: words } = useWords()
  const [data, setData] = useState(item.data)
  const [key, setKey] = useState(item.key)
  const table = words?.schemas[item.kind] as Schema | undefined
  const schema = table && branch(table, data)
  const changed = JSON.stringify(data) !== JSON.stringify(item.data) || item.revision === 0
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/library/{kind}/{key}', {
          params: { path: { kind: item.kind, key: item.kind === 'settings' ? 'shop' : key } },
          body: { data, revision: item.revision },
        }),
      ),
    onSuccess: (stored) => {
      void cache.invalidateQueries({ queryKey: ['library'] })
      void cache.invalidateQueries({ queryKey: ['plan'] })
      if (item.kind === 'settings') void cache.invalidateQueries({ queryKey: ['session'] })
      if (item.kind !== 'settings')
        void navigate(`/library/${item.kind}/${stored.key}`, { replace: true })
    },
  })
  const remove = useMutation({
    mutationFn: () =>
      ask(
        api.DELETE('/api/library/{kind}/{key}', {
          params: { path: { kind: item.kind, key: item.key } },
        }),
      ),
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: ['library'] })
      void navigate(`/library/${item.kind}`)
    },
  })
  const error = save.error ?? remove.error
  const bad = error instanceof Refused ? error.problem.problems[0]?.field : undefined
  if (!schema || !table) return null
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_420px] gap-8 px-6 py-4">
      <div>
        <div className="mb-3 flex items-baseline gap-4">
          <h1 className="text-[20px] font-semibold">
            {item.kind === 'settings' ? 'Shop settings' : String(data.name || 'New')}
          </h1>
          {item.revision === 0 && item.kind !== 'settings' ? (
            <label className="flex items-center gap-1.5">
              <span className="text-ink-2">Key</span>
              <input
                className="field n w-48"
                value={key}
                placeholder="short-name-8"
                onChange={(event) => setKey(event.target.value)}
              />
            </label>
          ) : (
            <span className="n text-small text-ink-3">{item.key}</span>
          )}
        </div>
        {item.problem && (
          <p role="alert" className="mb-3 border-l-2 border-red pl-2 text-red-edge">
            {item.problem} Correct it here and save; until then no plan can use it.
          </p>
        )}
        <SchemaForm
          schema={schema}
          root={table}
          data={data}
          onChange={setData}
          bad={bad}
          skip={data.kind === 'fixture' ? DRAWN : PLAIN}
          all={all}
          disabled={!may}
        />
        {error && (
          <p role="alert" className="mt-3 border-l-2 border-red pl-2 text-red-edge">
            {error.message}
          </p>
        )}
        {may && (
          <div className="sticky bottom-0 mt-4 flex items-center gap-3 border-t border-hair bg-surface py-2">
            <button
              className="press"
              disabled={!changed || save.isPending || (item.kind !== 'settings' && !key)}
              onClick={() => save.mutate()}
            >
              Save
            </button>
            {changed && item.revision > 0 && (
              <button className="link" onClick={() => setData(item.data)}>
                Put back
              </button>
            )}
            {save.isSuccess && !changed && (
              <span role="status" className="text-ink-2">
                Saved.
              </span>
            )}
            {item.revision > 0 && item.kind !== 'settings' && (
              <span className="ml-auto flex items-baseline gap-4">
                <Link className="link" to={`/library/${item.kind}/new?like=${item.key}`}>
                  Add one like this
                </Link>
                <button
                  className="link"
                  disabled={remove.isPending}
                  onClick={() => remove.mutate()}
                >
                  Remove from the library
                </button>
              </span>
            )}
          </div>
        )}
      </div>
      <aside>
        {item.kind === 'assemblies' && <AssemblyDrawing data={data} all={all} />}
        {item.kind === 'machines' && (
          <CurveDrawing data={data} machine={item.key} jobs={item.used_by} />
        )}
        {item.kind === 'machines' && item.revision > 0 && (
          <p className="mt-4 border-t border-hair pt-2">
            <Link className="link" to={`/library/machines/${item.key}/times`}>
              Time it by the watch
            </Link>
            <span className="mt-1 block text-small text-ink-2">
              Runs at the machine, and the accelerations, corners and changes that fit their times.
            </span>
          </p>
        )}
        {item.kind === 'tools' && <ToolDrawing data={data} />}
        {data.kind === 'fixture' && (
          <figure>
            <FixtureDrawing body={bodyOf(data)} />
            <figcaption className="text-small text-ink-2">
              S are its seats, L its locators, crosses its threads. Another body, or other picks,
              are read from its file anew.
            </figcaption>
          </figure>
        )}
        {item.used_by.length > 0 && (
          <p className="mt-4 border-t border-hair pt-2">
            Used by{' '}
            {item.used_by.map((job) => (
              <a key={job} className="link n mr-2" href={`/jobs/${job}/setups`}>
                {job}
              </a>
            ))}
            <span className="mt-1 block text-small text-ink-2">
              A change is answered anew in these plans; their releases stay as they are. It can’t be
              removed while they use it.
            </span>
          </p>
        )}
      </aside>
    </div>
  )
}
