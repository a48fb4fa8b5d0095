import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask, type Problem, Refused, upload } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { jobAt } from './jobAt'

// A job with what is known of it at once, its STEP file too: it is read while the page of the part opens.
export function NewJob({ close }: { close: () => void }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const { data: library } = useLibrary()
  const [form, setForm] = useState({
    number: '',
    title: '',
    revision: '',
    material: '',
    quantity: '1',
    due: '',
    remark: '',
  })
  const [step, setStep] = useState<File | null>(null)
  const make = useMutation({
    mutationFn: async () => {
      const job = await ask(
        api.POST('/api/jobs', {
          body: { ...form, quantity: Number(form.quantity), due: form.due || null },
        }),
      )
      const reading = step
        ? await upload(`/api/plans/${job.plan}/step`, step, () => {}).then(
            (task) => task.id,
            (error: Error) => error.message,
          )
        : null
      return { job, reading }
    },
    onSuccess: ({ job, reading }) => {
      void cache.invalidateQueries({ queryKey: ['jobs'] })
      void navigate(`${jobAt(job.number)}/part`, {
        state: typeof reading === 'number' ? { reading } : reading ? { refused: reading } : null,
      })
    },
  })
  const problem: Problem | null = make.error instanceof Refused ? make.error.problem : null
  const bad = (name: string) => problem?.problems.find((each) => each.field === name)?.sentence
  const input = (
    name: keyof typeof form,
    label: string,
    wide: string,
    more: React.InputHTMLAttributes<HTMLInputElement> = {},
  ) => (
    <label className="flex flex-col gap-0.5">
      <span className="text-small text-ink-2">{label}</span>
      <input
        className={`field ${wide} ${bad(name) ? 'border-b-2 border-b-red!' : ''}`}
        value={form[name]}
        aria-invalid={!!bad(name)}
        onChange={(event) => setForm({ ...form, [name]: event.target.value })}
        {...more}
      />
    </label>
  )
  return (
    <form
      aria-label="New job"
      className="mb-4 border border-brass bg-paper p-4"
      onKeyDown={(event) => event.key === 'Escape' && close()}
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate()
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        {input('number', 'Number', 'w-28 n', { autoFocus: true, required: true, maxLength: 40 })}
        {input('title', 'Title', 'w-60', { required: true, maxLength: 120 })}
        {input('revision', 'Revision', 'w-16 n', { maxLength: 10 })}
        <label className="flex flex-col gap-0.5">
          <span className="text-small text-ink-2">Material</span>
          <select
            className="field w-44"
            value={form.material}
            onChange={(event) => setForm({ ...form, material: event.target.value })}
          >
            <option value="">choose later</option>
            {library?.items
              .filter((item) => item.kind === 'materials' && !item.problem)
              .map((item) => (
                <option key={item.key} value={item.key}>
                  {String(item.data.name)}
                </option>
              ))}
          </select>
        </label>
        {input('quantity', 'Quantity', 'w-20 n text-right', {
          inputMode: 'numeric',
          pattern: '[0-9]+',
          title: 'a whole number',
        })}
        {input('due', 'Due', 'w-36 n', { type: 'date' })}
        {input('remark', 'Remark', 'w-72', { maxLength: 500 })}
        <label className="flex flex-col gap-0.5">
          <span className="text-small text-ink-2">Solid, a STEP file</span>
          <input
            type="file"
            accept=".step,.stp"
            className="field w-64 text-small"
            onChange={(event) => setStep(event.target.files?.[0] ?? null)}
          />
        </label>
        <button className="press" disabled={make.isPending}>
          {make.isPending && step ? 'Sending …' : 'Make the job'}
        </button>
        <button type="button" className="link min-h-6 py-1" onClick={close}>
          Cancel
        </button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-red-edge">
          {problem.sentence}
        </p>
      )}
    </form>
  )
}
