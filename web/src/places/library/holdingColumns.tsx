import { Figure } from '../../ui/Figure'
import { type Column, type Data, fig, text } from './column'

const SAID: Record<string, string> = {
  clamped: 'clamped on',
  pulled: 'pulled down on',
  fixture: 'the shop’s own',
  centres: 'face driver',
  side: 'beside the part',
}
const kind = (d: Data) => SAID[String(d.kind)] ?? String(d.kind)
const length = (d: Data, name: string, bare = false) => (
  <Figure value={d[name] as number} quantity="length" bare={bare} />
)

// What takes a part, how it closes and with what.
export const HOLDINGS: Column[] = [
  ['Kind', kind],
  [
    'Takes',
    (d) =>
      d.kind === 'chuck' ? (
        <>
          Ø {length(d, 'min_grip_mm', true)} to {length(d, 'max_grip_mm')}
        </>
      ) : d.kind === 'centres' ? (
        <>
          ends Ø {length(d, 'from_mm', true)} to {length(d, 'to_mm')}
        </>
      ) : d.kind === 'mandrel' ? (
        <>
          bores Ø {length(d, 'from_mm', true)} to {length(d, 'to_mm')}
        </>
      ) : d.kind === 'collet' ? (
        <>
          {d.profile === 'round' ? 'Ø ' : `${String(d.profile)} `}
          {length(d, 'grips_mm')}
        </>
      ) : d.kind === 'fixture' ? (
        'its part'
      ) : d.kind === 'clamped' || d.kind === 'pulled' ? (
        Number(d.x_mm) ? (
          <>
            {length(d, 'x_mm', true)} × {length(d, 'y_mm')}
          </>
        ) : d.kind === 'pulled' ? (
          'what it is cut for'
        ) : (
          'what the table takes'
        )
      ) : (
        <>up to {length(d, 'max_opening_mm')}</>
      ),
  ],
  [
    'Jaws',
    (d) =>
      d.kind === 'chuck'
        ? `${String(d.jaws)}, ${String(d.jaw_kind)}`
        : d.kind === 'vise'
          ? String(d.jaws)
          : '–',
  ],
  [
    'Closes with up to',
    (d) =>
      d.kind === 'chuck' ? (
        <>
          <Figure value={d.force_per_jaw_n as number} quantity="force" /> each jaw
        </>
      ) : d.kind === 'collet' || d.kind === 'mandrel' ? (
        <Figure value={d.force_n as number} quantity="force" />
      ) : d.kind === 'vise' ? (
        <Figure value={d.max_torque_nm as number} quantity="torque" />
      ) : d.kind === 'pulled' ? (
        <Figure value={d.pull_kpa as number} quantity="pull" />
      ) : d.kind === 'centres' ? (
        'the tailstock'
      ) : (
        'its clamps'
      ),
  ],
  ['Friction', text('friction')],
]

export const CLAMPS: Column[] = [
  ['Kind', kind],
  ['Thread', (d) => (d.thread_mm ? `M${String(d.thread_mm)}` : '–')],
  ['Takes up to', fig('max_torque_nm', 'torque')],
  ['Wrench', fig('wrench_mm', 'length')],
  [
    'Nose to stud, stud to heel',
    (d) =>
      d.kind === 'strap' ? (
        <>
          {length(d, 'nose_to_stud_mm', true)}, {length(d, 'stud_to_heel_mm')}
        </>
      ) : (
        '–'
      ),
  ],
  ['Friction', text('friction')],
]
