import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask } from '../../api/client'
import { useRights } from '../../app/session'
import { AskAgain } from '../../ui/States'
import { useFrame } from '../frame'
import { type Found, stateOf, WORDS } from './magazine'

const CELL = 28
const ROW = 12 // cells

// The pockets of the setup's machine: what the plan puts there, what stays there for other jobs, what is free.
export function Magazine({ machine, name }: { machine: string; name: string }) {
  const { answer, job } = useFrame()
  const may = useRights().has('library')
  const cache = useQueryClient()
  const { data, error, refetch } = useQuery({
    queryKey: ['magazine', answer.id, answer.revision, machine],
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/magazine', {
          params: { path: { id: answer.id }, query: { machine } },
        }),
      ),
  })
  const keep = useMutation({
    mutationFn: (stay: boolean) =>
      ask(
        api.POST('/api/plans/{id}/magazine', {
          params: { path: { id: answer.id } },
          body: { machine, stay },
        }),
      ),
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: ['magazine'] })
      void cache.invalidateQueries({ queryKey: ['library'] })
      void cache.invalidateQueries({ queryKey: ['plan', answer.id] })
    },
  })
  if (error) return <AskAgain again={() => void refetch()} error={error} />
  if (!data) return null
  const own = data.some((each) => each.pockets.some(({ stays }) => stays?.of === job.number))
  return (
    <section aria-label="Magazine" className="mt-5 border-t border-hair-strong pt-2">
      <h2 className="font-semibold">Magazine of {name}</h2>
      {data.map((each) => (
        <Carrier key={each.carrier} of={each} several={data.length > 1} />
      ))}
      {may && (
        <p className="mt-2 flex items-baseline gap-3">
          <button className="press-2" disabled={keep.isPending} onClick={() => keep.mutate(true)}>
            Leave these tools in it for {job.number}
          </button>
          {own && (
            <button className="link" disabled={keep.isPending} onClick={() => keep.mutate(false)}>
              They come out again
            </button>
          )}
        </p>
      )}
      {keep.error && (
        <p role="alert" className="mt-1 text-small text-red-edge">
          {keep.error.message}
        </p>
      )}
    </section>
  )
}

function Carrier({ of, several }: { of: Found[number]; several: boolean }) {
  const rows = Math.ceil(of.pockets.length / ROW)
  return (
    <>
      <p className="mt-1 text-small text-ink-2">
        {several && <b>{of.carrier}: </b>}
        <b className="n">{of.there}</b> of its tools stay there already,{' '}
        <b className="n">{of.put_in}</b> to put in; <b className="n">{of.free}</b> pockets free
        {of.come_out > 0 && (
          <>
            , <b className="n">{of.come_out}</b> that stay have to come out
          </>
        )}
        .
      </p>
      <svg
        width={CELL * Math.min(ROW, of.pockets.length) + 1}
        height={CELL * rows + 1}
        role="img"
        aria-label={of.pockets
          .filter((each) => each.tool || each.stays)
          .map((each) => `pocket ${each.pocket}: ${said(each)}`)
          .join(', ')}
        className="mt-1 block"
      >
        {of.pockets.map((each, k) => {
          const state = stateOf(each)
          const shown = each.tool ?? each.stays
          return (
            <g
              key={each.pocket}
              transform={`translate(${(k % ROW) * CELL} ${Math.floor(k / ROW) * CELL})`}
            >
              <title>{`Pocket ${each.pocket}: ${said(each)}`}</title>
              <rect
                x={0.5}
                y={0.5}
                width={CELL}
                height={CELL}
                className={`stroke-hair-strong ${FILL[state]}`}
              />
              {state === 'over' && <path d="M3 25 L25 3" className="stroke-amber-edge" />}
              <text
                x={3}
                y={9}
                className={`n text-[8px] ${state === 'there' ? 'fill-scribe' : 'fill-ink-3'}`}
              >
                {each.pocket}
              </text>
              <text
                x={CELL / 2}
                y={22}
                textAnchor="middle"
                className={`n text-[11px] ${state === 'there' ? 'fill-white' : 'fill-ink'}`}
              >
                {shown ? `T${shown.number}` : ''}
              </text>
            </g>
          )
        })}
      </svg>
    </>
  )
}

const FILL = {
  free: 'fill-surface',
  in: 'fill-mark-wash',
  there: 'fill-mark',
  stays: 'fill-hair',
  over: 'fill-brass-wash',
}

const said = (each: Found[number]['pockets'][number]) => {
  const of = each.stays?.of ? ` for ${each.stays.of}` : ''
  const tool = each.tool ? `T${each.tool.number} ${each.tool.name}` : ''
  const stays = each.stays ? `T${each.stays.number} ${each.stays.name}` : ''
  return WORDS[stateOf(each)](tool, stays, of)
}
