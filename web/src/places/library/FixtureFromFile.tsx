import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask, Refused } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { useRights } from '../../app/session'
import { Empty } from '../../ui/States'
import { StepPicker, StepProgress } from '../part/StepProgress'
import { useStepReading } from '../part/useStepFile'
import { type Found, foundIn, inReach, level, named, ofTheShop, record, SIDES } from './fixture'
import { FixtureDrawing } from './FixtureDrawing'
import { At, High, Rows, Words } from './FixturePicks'

// A fixture of the shop from its STEP file: its seats, locators and threads are picked in the drawing.
export function FixtureFromFile() {
  const may = useRights().has('library')
  const [found, setFound] = useState<Found | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const file = useStepReading('/api/fixtures/step', (task) => setFound(foundIn(task)))
  if (!may)
    return (
      <Empty title="You may look at the library, not change it">
        A planner or an administrator brings a fixture in.
      </Empty>
    )
  return (
    <div className="px-6 py-4">
      <div className="mb-3 flex items-baseline gap-4">
        <h1 className="text-[20px] font-semibold">Fixture from a STEP file</h1>
        <button className={found ? 'link' : 'press'} onClick={() => picker.current?.click()}>
          {found ? 'Read another file' : 'Choose its file'}
        </button>
        {found && <span className="n text-small text-ink-3">{found.file}</span>}
      </div>
      <StepPicker file={file} label="STEP file of the fixture" picker={picker} />
      <StepProgress file={file} stays="Nothing was kept." />
      {found ? (
        <Picks key={found.file} found={found} />
      ) : (
        <p className="max-w-[70ch] text-ink-2">
          One solid, as it stands on the table: Z up, its bottom down. What a part lies on, what it
          is pushed against and what clamps are screwed into is picked of it here; then it is among
          the workholding, and parts can be put in it.
        </p>
      )}
    </div>
  )
}

function Picks({ found }: { found: Found }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const { data: library } = useLibrary()
  const [picked, setPicked] = useState(() => new Set(ofTheShop(found, library?.items ?? [])))
  const [marked, setMarked] = useState('')
  const [key, setKey] = useState('')
  const [said, setSaid] = useState({ name: '', friction: 0.15, mass_kg: 0, source: '' })
  const pick = (id: string) =>
    setPicked((before) => {
      const next = new Set(before)
      if (!next.delete(id)) next.add(id)
      return next
    })
  const reach = inReach(found, picked)
  const seats = found.seats.filter((each) => picked.has(each.id)).length
  const also = level(found, picked)
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/library/{kind}/{key}', {
          params: { path: { kind: 'holdings', key } },
          body: { data: { key, ...record(found, picked, said) }, revision: 0 },
        }),
      ),
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: ['library'] })
      void cache.invalidateQueries({ queryKey: ['plan'] })
      void navigate(`/library/holdings/${key}`)
    },
  })
  const lacks = [
    seats === 0 && 'what the part lies on',
    !key && 'a key',
    !said.name && 'a name',
    !said.source && 'where its friction is from',
  ].filter(Boolean)
  const shared = { picked, marked, onPick: pick, onMark: setMarked }
  const rows = { ...shared, names: named(found, picked) }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_400px] gap-8">
      <div className="h-[600px] border border-hair bg-paper">
        <FixtureDrawing body={found} locators={reach} {...shared} />
      </div>
      <div className="flex max-h-[600px] flex-col gap-3 overflow-y-auto text-body">
        <Rows
          title="Seats: the part lies on them"
          rows={found.seats}
          {...rows}
          tell={(each) => <High mm={each.high_mm} />}
        />
        {also.length > 0 && (
          <p className="text-small text-ink-2">
            <span className="n">{also.length}</span> more lie as high as those: a part that covers
            them lies on them too.{' '}
            <button
              className="link"
              onClick={() => setPicked(new Set([...picked, ...also.map((each) => each.id)]))}
            >
              Pick them
            </button>
          </p>
        )}
        <Rows
          title="Locators: the part is pushed against them"
          rows={reach}
          empty={
            seats === 0
              ? 'Pick a seat first; what stands over it can be a locator.'
              : 'Nothing stands over those seats.'
          }
          {...rows}
          tell={(each) => (
            <>
              the part’s {SIDES[each.side]}, <At spot={each.at_mm} />
            </>
          )}
        />
        <Rows
          title="Threads: clamps are screwed into them"
          rows={found.threads}
          empty="No hole is open upwards: studs may stand anywhere on it."
          {...rows}
          tell={(each) => (
            <>
              <span className="n">M{each.size_mm}</span>, <At spot={each.at_mm} />
            </>
          )}
        />
        <Words said={said} onSaid={setSaid} name={key} onName={setKey} />
        {save.error && (
          <p role="alert" className="border-l-2 border-red pl-2 text-red-edge">
            {save.error instanceof Refused ? save.error.problem.sentence : save.error.message}
          </p>
        )}
        <div className="sticky bottom-0 mt-auto flex items-baseline gap-3 border-t border-hair bg-surface py-2">
          <button
            className="press"
            disabled={lacks.length > 0 || save.isPending}
            onClick={() => save.mutate()}
          >
            Keep it
          </button>
          <Link className="link" to="/library/holdings">
            Leave it
          </Link>
          {lacks.length > 0 && (
            <span className="text-small text-ink-2">still open: {lacks.join(', ')}</span>
          )}
        </div>
      </div>
    </div>
  )
}
