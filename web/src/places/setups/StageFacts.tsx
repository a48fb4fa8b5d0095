import type { PlannedStation, StationResult } from '../../api/client'
import { Figure, Sentence } from '../../ui/Figure'
import { FlipPicture } from '../../rail/Flip'
import { HeldBy } from './HeldBy'
import { ZeroMark } from './stageMarks'

// In short, how the part lies, is held and where its zero is, under the stage.
export function StageFacts({
  seen,
  station,
  laid,
  tallest,
}: {
  seen: StationResult
  station: PlannedStation
  laid: boolean
  tallest: { number: number; name: string; length: number } | null | undefined
}) {
  const upright = seen.zero.at(-1)
  return (
    <dl className="grid grid-cols-3 border-t border-hair-strong text-body [&>div]:border-r [&>div]:border-hair [&>div]:px-4 [&>div]:py-1.5 [&>div:nth-child(3n)]:border-r-0 [&>div:nth-child(n+4)]:border-t [&_dt]:text-small [&_dt]:text-ink-2">
      <div>
        <dt>{laid ? 'Out' : 'Up'}</dt>
        <dd>{seen.up}</dd>
        {seen.flip && (
          <dd className="mt-1 text-small text-ink-2" title={seen.handling}>
            <FlipPicture flip={seen.flip} />
            {seen.handling}
          </dd>
        )}
      </div>
      <div>
        <dt>Held by</dt>
        <dd>
          <HeldBy held={seen.held} />
        </dd>
      </div>
      <div>
        <dt>Zero</dt>
        <dd>
          <ZeroMark /> <span className="n">{station.work_offset}</span>{' '}
          {seen.zero.slice(0, -1).map((each, k) => (
            <span key={each.text}>
              {k > 0 && ', '}
              <Sentence {...each} text={each.text.replace('X Y ', '')} />
            </span>
          ))}
        </dd>
      </div>
      <div>
        <dt>Grip</dt>
        <dd>
          {seen.held && seen.held.gripped_mm > 0 ? (
            <>
              <Figure value={seen.held.gripped_mm} quantity="length" />
              {seen.parallels_mm !== null && seen.parallels_mm > 0 && (
                <>
                  , parallels <Figure value={seen.parallels_mm} quantity="length" bare />
                </>
              )}
            </>
          ) : (
            '–'
          )}
        </dd>
      </div>
      <div>
        <dt>Longest tool</dt>
        <dd>
          {tallest ? (
            <>
              <span className="n">T{tallest.number}</span> {tallest.name},{' '}
              <Figure value={tallest.length} quantity="length" />
            </>
          ) : (
            '–'
          )}
        </dd>
      </div>
      <div>
        <dt>Z zero</dt>
        <dd>{upright && <Sentence {...upright} text={upright.text.replace('Z ', '')} />}</dd>
      </div>
    </dl>
  )
}
