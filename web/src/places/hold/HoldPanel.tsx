import { useFrame } from '../frame'
import { Figure, Sentence } from '../../ui/Figure'
import { Empty, Failed, Loading } from '../../ui/States'
import { PanelHead } from '../setups/PanelHead'
import type { StationResult } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Builder } from './Builder'
import { carriedTo, type Clamped, slidable } from './clamps'
import { HeldDrawing } from './HeldDrawing'
import { Lasts } from './Lasts'
import { Rose } from './Rose'
import type { At } from './seen'
import { Slides } from './Slides'
import { StoodTable } from './StoodTable'
import { ThinPlaces } from './ThinPlaces'
import { type Hold, useHold } from './useHold'
import { useTried } from './useTried'
import { useThin } from './useThin'
import { Tries } from './Tries'
import { WrongWays } from './WrongWays'

type Shape = StationResult['bodies'][number]
type Props = { setup: string; operation: string | null; onPick: (operation: string) => void }

// What holds a part and how many times it stands each cut, in the stage's place.
export function HoldPanel({ setup, operation, onPick }: Props) {
  const { answer, evaluation, session } = useFrame()
  const whole = evaluation?.setups.find((each) => each.id === setup)
  const op = whole?.operations.find((each) => each.id === operation)
  const station = op?.station ?? whole?.stations[0]?.id ?? ''
  const [trial, setTried] = useTried(answer.revision, station)
  const { data, error, refetch, isPending } = useHold(answer, station, op?.id ?? '', trial)
  const thin = useThin(answer, op?.id ?? '').data ?? []
  const planned = (answer.plan.setups ?? []).flatMap((each) => each.stations)
  const clamped = planned.find((each) => each.id === station && each.holding?.kind === 'clamped')
  const held = clamped?.holding as unknown as Clamped | undefined
  const slides = held
    ? (bodies: Shape[], above: (at: At) => At) => (
        <Slides
          rows={slidable(held)}
          bodies={bodies}
          above={above}
          onPut={(row, at) =>
            void quietly(
              session.edit([
                { do: 'change', on: `station:${station}`, fields: carriedTo(held, row, at) },
              ]),
            )
          }
        />
      )
    : undefined
  const unknown = whole?.stations.find((each) => each.id === station)?.unknown.hold
  return (
    <div className="grid h-full grid-rows-[34px_1fr]">
      <PanelHead
        title={
          <>
            Setup <span className="n">{whole?.number}</span> held
          </>
        }
        table={!whole?.turns}
      />
      <div className="min-h-0 overflow-y-auto">
        {isPending ? (
          <Loading what="what holds it" />
        ) : error ? (
          <Failed error={error} again={() => void refetch()} />
        ) : data && whole ? (
          <>
            <HeldDrawing
              hold={data}
              turns={whole.turns}
              station={whole.stations.find((each) => each.id === station)}
              cut={data.operations.find((each) => each.id === operation)}
              walls={thin}
              slides={slides}
              clamps={(op ?? whole.operations.find((each) => each.station === station))?.clamps}
            />
            <div
              className={`grid items-center border-y border-hair ${data.rose ? 'grid-cols-[196px_1fr]' : ''}`}
            >
              <Rose hold={data} />
              <Told hold={data} operation={operation} force={trial.force} />
            </div>
            <Tries hold={data} tried={trial} onTry={setTried} />
          </>
        ) : (
          <Empty title={clamped ? 'It can’t be clamped like this' : 'Nothing holds it yet'}>
            {unknown ||
              'Say in the setup what holds the part; then it is shown here what that stands.'}
          </Empty>
        )}
        {op && <ThinPlaces walls={thin} number={op.number} />}
        {clamped && <Builder station={clamped} whole={whole} hold={data ?? null} />}
        {data && whole && (
          <>
            <Lasts answer={answer} station={station} whole={whole} />
            <WrongWays answer={answer} station={station} />
            <StoodTable hold={data} whole={whole} operation={operation} onPick={onPick} />
            <p className="border-t border-hair px-4 py-2 text-small text-ink-2">
              A planning aid: bodies are stiff here and clamps press all the time. The maker’s
              limits, the shop’s rules and a qualified person come first; a first part runs slowly,
              with a finger on stop.
            </p>
          </>
        )}
      </div>
    </div>
  )
}

function Told({
  hold,
  operation,
  force: share,
}: {
  hold: Hold
  operation: string | null
  force: number // of the planned one
}) {
  const { answer } = useFrame()
  const looked = hold.operations.find((each) => each.id === operation)
  const hardest = Math.max(0, ...hold.operations.map((each) => each.scale ?? 0))
  const planned = (answer.plan.setups ?? [])
    .flatMap((each) => each.stations)
    .find((each) => each.id === hold.station)?.holding as { torque_nm?: number } | undefined
  const set = planned?.torque_nm
  return (
    <div className="grid gap-1.5 px-4 py-2 text-body">
      {looked && !hold.rose && (
        <p className="text-ink-2">It pushes along its axis and twists: no direction to choose.</p>
      )}
      {Object.entries(hold.clamps).map(([name, force]) => (
        <p key={name}>
          <b>{name}</b> <Figure value={force} quantity="force" />
          {Object.keys(hold.clamps).length > 0 && set !== undefined && (
            <span className="text-ink-2">
              {' '}
              at <Figure value={set * share} quantity="torque" />
            </span>
          )}
        </p>
      ))}
      {set !== undefined && hardest > 0 && (
        <p>
          <b>
            <Figure value={set * hardest} quantity="torque" />
          </b>{' '}
          is the least that stands every cut as often as is asked.
        </p>
      )}
      <p>
        {hold.seated ? (
          <>Clamps and weight seat it.</>
        ) : (
          <b className="text-red">
            Clamped, it <Sentence {...hold.moves} />:{' '}
            <Figure value={Number(hold.left.value)} quantity={hold.left.quantity} /> find no
            support.
          </b>
        )}
      </p>
      <p>
        {hold.free.length ? (
          <>
            What bears leaves it free: it{' '}
            {hold.free.map((each, k) => (
              <span key={k}>
                {k > 0 && ', '}
                <Sentence {...each} />
              </span>
            ))}
            . Friction holds it there.
          </>
        ) : (
          <>What bears stops all six motions.</>
        )}
      </p>
      {hold.not_pressed.length > 0 && (
        <p className="text-ink-2">Not pressed: {hold.not_pressed.join(', ')}.</p>
      )}
      {hold.jams && (
        <p className="text-ink-2">What bears can jam by friction, which counts nothing then.</p>
      )}
    </div>
  )
}
