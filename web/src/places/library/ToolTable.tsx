import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type TableLine, Refused, uploadFile } from '../../api/client'
import { Mark } from '../../ui/Mark'

const words = (value: unknown) =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : value === true
      ? 'yes'
      : value === false
        ? 'no'
        : String(value)

// Tools out as a table and back in: what would change is shown line by line, and taken all or not at all.
export function ToolTable() {
  const cache = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const [lines, setLines] = useState<TableLine[] | null>(null)
  const [problem, setProblem] = useState('')
  const [said, setSaid] = useState('')
  const ask = async (path: string, chosen: File) => {
    setProblem('')
    try {
      return await uploadFile<TableLine[]>(path, chosen)
    } catch (error) {
      setProblem(error instanceof Refused ? error.problem.sentence : (error as Error).message)
      return null
    }
  }
  const count = (does: string) => lines?.filter((line) => line.does === does).length ?? 0
  const close = () => (setFile(null), setLines(null))
  const telling = lines?.filter((line) => line.does !== 'same') ?? []
  return (
    <>
      <a className="link" href="/api/library/tools.csv" download>
        Export as CSV
      </a>
      <label className="link cursor-pointer">
        Import a CSV
        <input
          type="file"
          accept=".csv,text/csv"
          className="sr-only"
          aria-label="Table of tools"
          onChange={(event) => {
            const chosen = event.target.files?.[0]
            event.target.value = ''
            if (!chosen) return
            setSaid('')
            setFile(chosen)
            void ask('/api/library/tools.csv/preview', chosen).then(setLines)
          }}
        />
      </label>
      <span role="status" className="text-small">
        {said}
      </span>
      {problem && (
        <p
          role="alert"
          className="w-full border-l-4 border-red bg-red-wash px-3 py-1.5 text-red-edge"
        >
          {problem}
        </p>
      )}
      {lines && file && (
        <section
          aria-label="What the table would change"
          className="w-full border-y border-ink bg-paper py-2"
        >
          <p className="flex items-center gap-4">
            <b>{file.name}</b>
            <span>
              <span className="n">{count('new')}</span> new,{' '}
              <span className="n">{count('changed')}</span> changed,{' '}
              <span className="n">{count('same')}</span> as they are
              {count('wrong') > 0 && <b className="text-red-edge">, {count('wrong')} wrong</b>}
            </span>
            <button
              className="press ml-auto"
              disabled={count('wrong') > 0 || count('new') + count('changed') === 0}
              onClick={() =>
                void ask('/api/library/tools.csv', file).then((taken) => {
                  if (!taken) return
                  setSaid(
                    `${count('new')} new and ${count('changed')} changed tools are in the library.`,
                  )
                  close()
                  void cache.invalidateQueries({ queryKey: ['library'] })
                })
              }
            >
              Take them all
            </button>
            <button className="link" onClick={close}>
              Leave it
            </button>
          </p>
          {count('wrong') > 0 && (
            <p className="text-small text-ink-2">
              Nothing is taken while a line is wrong. Mend the file and choose it again.
            </p>
          )}
          {telling.length > 0 && (
            <table className="mt-1 w-full [&_td]:border-t [&_td]:border-hair [&_td]:py-0.5 [&_td]:pr-4 [&_td]:align-baseline">
              <tbody>
                {telling.map((line) => (
                  <tr key={line.number}>
                    <td className="n w-14 text-right text-ink-2">{line.number}</td>
                    <td className="w-24">
                      {line.does === 'wrong' ? (
                        <span className="inline-flex items-center gap-1 text-red-edge">
                          <Mark state="stop" size={10} /> wrong
                        </span>
                      ) : (
                        line.does
                      )}
                    </td>
                    <td className="w-56">
                      <b>{line.name}</b> <span className="n text-small text-ink-2">{line.key}</span>
                    </td>
                    <td>
                      {line.problem ||
                        line.changes.map((each, k) => (
                          <span key={each.field}>
                            {k > 0 && ', '}
                            {each.field.replaceAll('_', ' ')}{' '}
                            <span className="n">
                              {words(each.before)} → {words(each.after)}
                            </span>
                          </span>
                        ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      )}
    </>
  )
}
