import { Fragment } from 'react'
import { Figure } from '../../ui/Figure'
import { type Column, fig, text } from './column'
import { CLAMPS, HOLDINGS } from './holdingColumns'

type MachineParts = {
  spindles: {
    id: string
    turns: string
    ranges: { max_rpm: number; continuous: { power_kw: number }[] }[]
  }[]
  carriers: {
    id: string
    pockets: number
    chip_to_chip_s: number
    travel: Record<'x' | 'y' | 'z', number>
  }[]
  places: { id: string; kind: string; rotaries: { name: string }[] }[]
}
// On a table or before a spindle, and the axes that turn it there.
function whereWorkIs({ places }: MachineParts): string {
  return places
    .map(
      ({ id, kind, rotaries }) =>
        `${kind === 'table' ? 'on a table' : `before spindle ${id}`}${
          rotaries.length ? `, ${rotaries.map((each) => each.name).join(' ')}` : ''
        }`,
    )
    .join('; ')
}

// What the table of each kind of thing shows.
export const COLUMNS: Record<string, Column[]> = {
  machines: [
    ['The work', (d) => whereWorkIs(d as unknown as MachineParts)],
    [
      'Travel X Y Z',
      (d) =>
        (d as unknown as MachineParts).carriers.map(({ id, travel }) => (
          <span key={id} className="block">
            {(['x', 'y', 'z'] as const).map((axis, k) => (
              <Fragment key={axis}>
                {k > 0 && ' × '}
                {travel[axis] ? <Figure value={travel[axis]} quantity="length" bare /> : '–'}
              </Fragment>
            ))}
          </span>
        )),
    ],
    [
      'Spindles',
      (d) =>
        (d as unknown as MachineParts).spindles.map(({ id, turns, ranges }) => (
          <span key={id} className="block">
            <Figure
              value={Math.max(...ranges.flatMap((r) => r.continuous.map((p) => p.power_kw)))}
              quantity="power"
            />
            , <Figure value={Math.max(...ranges.map((r) => r.max_rpm))} quantity="spindle_speed" />,
            turns the {turns}
            {ranges.length > 1 && `, ${ranges.length} ranges`}
          </span>
        )),
    ],
    [
      'Pockets',
      (d) => (d as unknown as MachineParts).carriers.map((each) => each.pockets).join(' + '),
    ],
    [
      'Chip to chip',
      (d) =>
        (d as unknown as MachineParts).carriers
          .map((each) => `${each.chip_to_chip_s} s`)
          .join(' / '),
    ],
  ],
  assemblies: [
    ['Tool', text('tool')],
    ['Holder', text('holder')],
    ['Stick-out', fig('stick_out_mm', 'length')],
  ],
  tools: [
    ['Kind', (d) => String(d.kind).replace('_', ' ')],
    ['Ø', fig('diameter_mm', 'length')],
    ['Flutes', text('flutes')],
    ['Cuts deep', fig('flute_length_mm', 'length')],
    ['Length', fig('overall_length_mm', 'length')],
    ['Made of', text('material')],
    ['On hand', (d) => (d.on_hand === null ? '–' : String(d.on_hand))],
  ],
  holders: [
    [
      'Length',
      (d) => (
        <Figure
          value={(d.sections as { length_mm: number }[]).reduce((sum, s) => sum + s.length_mm, 0)}
          quantity="length"
        />
      ),
    ],
    ['Grips', fig('grip_depth_mm', 'length')],
    ['Run-out', fig('run_out_mm', 'size')],
  ],
  holdings: HOLDINGS,
  clamps: CLAMPS,
  materials: [
    ['ISO', text('iso_group')],
    ['kc1.1', fig('kc11_n_mm2', 'pressure')],
    ['mc', text('mc')],
    ['Density', (d) => `${String(d.density_kg_dm3)} kg/dm³`],
    ['Modulus', (d) => (d.modulus_gpa == null ? '' : `${String(d.modulus_gpa)} GPa`)],
    ['Hardness', text('hardness')],
    ['Source', text('source')],
  ],
}
