import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
} from '@headlessui/react'
import { useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useNavigate } from 'react-router'
import { useCalculators, useJobsLike, useLibrary } from '../api/hooks'
import type { Frame } from '../places/frame'
import { jobAt } from '../places/jobs/jobAt'
import { sizes } from '../ui/format'
import { useUnits } from './units'

type Command = { id: string; words: string; aside: string; run: () => void }

// Ctrl K: any action, job, operation or library item by a few letters. ? shows the keys.
export function Palette({ frame }: { frame: Frame }) {
  const [open, setOpen] = useState<'find' | 'keys' | null>(null)
  useHotkeys('mod+k', () => setOpen('find'), { preventDefault: true, enableOnFormTags: true })
  useHotkeys('?', () => setOpen('keys'), { preventDefault: true, useKey: true })
  const close = () => setOpen(null)
  return (
    <Dialog open={open !== null} onClose={close} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink/30" />
      <DialogPanel className="fixed left-1/2 top-24 w-[560px] -translate-x-1/2 border border-ink bg-paper">
        {open === 'keys' ? <Keys /> : open === 'find' ? <Find frame={frame} close={close} /> : null}
      </DialogPanel>
    </Dialog>
  )
}

function Find({ frame, close }: { frame: Frame; close: () => void }) {
  const [text, setText] = useState('')
  const commands = useCommands(frame, text)
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = commands
    .filter((each) =>
      wanted.every((word) => `${each.words} ${each.aside}`.toLowerCase().includes(word)),
    )
    .slice(0, 12)
  return (
    <Combobox<Command>
      onChange={(command) => {
        close()
        command?.run()
      }}
    >
      <ComboboxInput
        autoFocus
        aria-label="Find an action, job, operation or tool"
        placeholder="Find an action, job, operation, tool …"
        className="w-full border-b border-hair-strong px-4 py-3 text-head outline-none"
        onChange={(event) => setText(event.target.value)}
      />
      <ComboboxOptions static className="max-h-96 overflow-auto py-1">
        {found.map((each) => (
          <ComboboxOption
            key={each.id}
            value={each}
            className="flex cursor-pointer gap-4 px-4 py-1.5 data-focus:bg-mark data-focus:text-white"
          >
            <span>{each.words}</span>
            <span className="ml-auto opacity-70">{each.aside}</span>
          </ComboboxOption>
        ))}
        {found.length === 0 && <p className="px-4 py-3 text-ink-2">Nothing is called that.</p>}
      </ComboboxOptions>
    </Combobox>
  )
}

function useCommands({ base: here, answer, evaluation, session }: Frame, typed: string): Command[] {
  const navigate = useNavigate()
  const { data: jobs } = useJobsLike(typed)
  const { data: library } = useLibrary()
  const { data: calculators } = useCalculators()
  const { system, choose } = useUnits()
  const go = (to: string) => () => void navigate(to)
  return [
    { id: 'order', words: 'Go to the order', aside: 'place', run: go(`${here}/order`) },
    { id: 'setups', words: 'Go to setups', aside: 'place', run: go(`${here}/setups`) },
    { id: 'part', words: 'Go to part and stock', aside: 'place', run: go(`${here}/part`) },
    {
      id: 'compare',
      words: 'Compare plans of this job',
      aside: 'place',
      run: go(`${here}/compare`),
    },
    {
      id: 'propose',
      words: 'Have plans proposed',
      aside: 'place',
      run: go(`${here}/propose`),
    },
    { id: 'release', words: 'Go to release', aside: 'place', run: go(`${here}/release`) },
    {
      id: 'undo',
      words: 'Undo',
      aside: answer.can_undo ? 'Ctrl Z' : 'nothing to undo',
      run: () => void session.undo(),
    },
    {
      id: 'redo',
      words: 'Do again',
      aside: answer.can_redo ? 'Ctrl Shift Z' : 'nothing undone',
      run: () => void session.redo(),
    },
    {
      id: 'units',
      words: system === 'metric' ? 'Show inches' : 'Show millimetres',
      aside: 'u',
      run: () => choose(system === 'metric' ? 'inch' : 'metric'),
    },
    {
      id: 'export',
      words: 'Export the plan as JSON',
      aside: 'file',
      run: () => window.location.assign(`/api/plans/${answer.id}/export.json`),
    },
    {
      id: 'csv',
      words: 'Export the tool list as CSV',
      aside: 'file',
      run: () => window.location.assign(`/api/plans/${answer.id}/tools.csv`),
    },
    ...(evaluation?.setups ?? []).flatMap((setup) =>
      setup.operations.map((op) => ({
        id: op.id,
        words: `${op.number} ${op.title} ${sizes(op.detail, op.sizes, system)}`,
        aside: `setup ${setup.number}`,
        run: go(`${here}/setups?op=${op.id}`),
      })),
    ),
    ...(jobs?.jobs ?? []).map((each) => ({
      id: 'job' + each.id,
      words: `${each.number} ${each.title}`,
      aside: 'job',
      run: go(jobAt(each.number)),
    })),
    ...(calculators ?? []).map((each) => ({
      id: 'calc' + each.name,
      words: each.title,
      aside: 'bench',
      run: go(`/bench/${each.name}`),
    })),
    {
      id: 'holes',
      words: 'Which way to make a hole',
      aside: 'bench',
      run: go('/bench/hole-methods'),
    },
    {
      id: 'slopes',
      words: 'A chamfer at an angle no stock tool has',
      aside: 'bench',
      run: go('/bench/slope-methods'),
    },
    ...(library?.items ?? [])
      .filter((item) => item.kind !== 'settings')
      .map((item) => ({
        id: item.kind + item.key,
        words: String(item.data.name),
        aside: item.kind,
        run: go(`/library/${item.kind}/${item.key}`),
      })),
  ]
}

export const KEYS: [string, string][] = [
  ['↑ ↓', 'walk the operations'],
  ['Enter', 'open or close the worksheet'],
  ['[ ]', 'walk the rail'],
  ['.', 'next finding'],
  ['1 – 5', 'ask one question of all operations; again for all'],
  ['Alt ↑ ↓', 'move the operation'],
  ['d', 'duplicate the operation'],
  ['Delete', 'take the operation out'],
  ['a', 'add an operation'],
  ['t', 'turn the drawing'],
  ['u', 'millimetres or inches'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, do again'],
  ['Ctrl K', 'find anything'],
  ['?', 'these keys'],
]

function Keys() {
  return (
    <div className="p-5">
      <h2 className="mb-3 text-head font-semibold">Keys</h2>
      <dl className="grid grid-cols-[160px_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="n">{key}</dt>
            <dd className="text-ink-2">{what}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}
