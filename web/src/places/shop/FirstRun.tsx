import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { Failed, Loading } from '../../ui/States'

const LANGUAGES: [string, string][] = [
  ['en-gb', 'English, 26 November'],
  ['en', 'English, November 26'],
  ['de', 'Deutsch'],
  ['fr', 'Français'],
  ['it', 'Italiano'],
  ['es', 'Español'],
  ['pt', 'Português'],
  ['nl', 'Nederlands'],
  ['sv', 'Svenska'],
  ['da', 'Dansk'],
  ['fi', 'Suomi'],
  ['pl', 'Polski'],
  ['cs', 'Čeština'],
]

// What a new shop is asked once: it stands on every sheet, or decides how sheets and plans start.
export function FirstRun() {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const library = useLibrary()
  const [typed, setTyped] = useState<Record<string, string>>({})
  const stored = library.data?.items.find((item) => item.kind === 'settings')
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/library/{kind}/{key}', {
          params: { path: { kind: 'settings', key: 'shop' } },
          body: { data: { ...stored?.data, ...typed }, revision: stored?.revision ?? 0 },
        }),
      ),
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: ['library'] })
      void cache.invalidateQueries({ queryKey: ['session'] })
      void navigate('/jobs')
    },
  })
  if (library.error) return <Failed error={library.error} again={() => void library.refetch()} />
  if (!stored || !library.data) return <Loading what="the settings" />
  const value = (name: string) => typed[name] ?? String(stored.data[name] ?? '')
  const set = (name: string) => (event: React.ChangeEvent<HTMLInputElement | HTMLSelectElement>) =>
    setTyped({ ...typed, [name]: event.target.value })
  const machines = library.data.items.filter((item) => item.kind === 'machines' && !item.problem)
  const choice = (name: string, label: string, why: string, options: [string, string][]) => (
    <Row label={label} why={why}>
      <select className="field w-72" value={value(name)} onChange={set(name)}>
        <option value="">not said yet</option>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </Row>
  )
  return (
    <form
      className="mx-auto max-w-[760px] px-6 py-6"
      onSubmit={(event) => (event.preventDefault(), save.mutate())}
    >
      <h1 className="mb-1 text-[20px] font-semibold">Your shop</h1>
      <p className="mb-4 text-ink-2">
        Said once. All of it can be changed later under Library, Shop settings, with the margins and
        factors the answers use.
      </p>
      <Row label="Name of the shop" why="at the head of every sheet">
        <input
          autoFocus
          className="field w-72"
          maxLength={80}
          value={value('shop_name')}
          onChange={set('shop_name')}
        />
      </Row>
      <Row label="Address line" why="small, under the name">
        <input
          className="field w-72"
          maxLength={200}
          value={value('address')}
          onChange={set('address')}
        />
      </Row>
      {choice('units', 'Sheets in', 'a job can ask for the other system; both stand on the sheet', [
        ['metric', 'millimetres'],
        ['inch', 'inches'],
      ])}
      {choice('paper', 'Paper', 'drawn with a release; the other one when it is asked for', [
        ['A4', 'A4'],
        ['Letter', 'Letter'],
      ])}
      {choice(
        'first_machine',
        'First machine',
        'a first setup starts on it, where the part fits',
        machines.map((item) => [item.key, String(item.data.name)]),
      )}
      {choice('date_language', 'Dates in', 'on sheets', LANGUAGES)}
      {save.error && (
        <p role="alert" className="mt-2 border-l-2 border-red pl-2 text-red-edge">
          {save.error.message}
        </p>
      )}
      <div className="mt-4 flex items-center gap-4">
        <button className="press" disabled={save.isPending}>
          Save
        </button>
        <button type="button" className="link min-h-6" onClick={() => void navigate('/jobs')}>
          Later
        </button>
      </div>
    </form>
  )
}

function Row({ label, why, children }: { label: string; why: string; children: React.ReactNode }) {
  return (
    <label className="grid grid-cols-[160px_300px_1fr] items-center gap-x-3 border-b border-hair py-2">
      <span className="font-semibold">{label}</span>
      {children}
      <span className="text-small text-ink-2">{why}</span>
    </label>
  )
}
