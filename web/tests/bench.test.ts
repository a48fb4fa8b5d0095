import { describe, expect, it } from 'vitest'
import type { CalculatorWords, Evaluation, OperationResult } from '../src/api/client'
import { benchLink, comparisons } from '../src/places/bench/fromOperation'
import { labelOf } from '../src/places/bench/labels'
import { precise, setDisplay } from '../src/ui/format'

const parameter = (name: string, required = true, fallback: number | null = null) => ({
  name,
  kind: 'number',
  quantity: 'size',
  unit: 'mm',
  required,
  default: fallback,
  choices: [],
  accepted: '',
  words: '',
})
const calculator = (
  name: string,
  parameters: ReturnType<typeof parameter>[],
  either: string[][] = [],
) => ({ name, parameters, either }) as unknown as CalculatorWords
const about = {
  op: {
    id: 'a40',
    kind: 'finish_walls',
    rpm: 9300,
    depth_mm: 26,
    width_mm: 0.3,
  } as unknown as OperationResult,
  planned: {},
  stickOut: 40,
  machine: {
    efficiency: 0.85,
    max_feed_mm_min: 15000,
    ranges: [{ max_rpm: 8000 }, { max_rpm: 12000 }],
  },
  material: { kc11_n_mm2: 700, mc: 0.25 },
  tool: {
    diameter_mm: 12,
    flutes: 3,
    flute_length_mm: 26,
    usable_length_mm: 36,
    neck_diameter_mm: 11.5,
    shank_diameter_mm: 12,
    material: 'carbide',
  },
  stiffness: { carbide: 600, hss: 210, flute_share: 0.8 },
  evaluation: {
    figures: { 'a40.chip': [0.12, 'f', []], 'a40.wall_force': [96.5, 'f', []] },
  } as unknown as Evaluation,
}

describe('what compares ways to do an operation', () => {
  const asked = (bench: string, op: object, planned: object) =>
    comparisons({
      op: op as never,
      bench,
      planned: planned as never,
      material: 'c45',
      quantity: 40,
      assemblies: ['drill-6-8', 'face-mill-50'],
    })

  it('takes a hole with its size, depth, number and the tools that are loaded', () => {
    const [one, ...more] = asked(
      'hole-methods',
      { kind: 'drill', depth_mm: 26, sizes: { d: 6.8 } },
      { on: { kind: 'features', ids: ['a', 'b', 'c'] } },
    )
    expect(more).toEqual([])
    const params = Object.fromEntries(new URLSearchParams(one!.to.split('?')[1]))
    expect(params).toEqual({
      diameter_mm: '6.8',
      depth_mm: '26',
      count: '3',
      material: 'c45',
      loaded: 'drill-6-8,face-mill-50',
    })
  })
  it('takes a slope with the length of one pass', () => {
    const [one] = asked(
      'slope-methods',
      { kind: 'slope', path_mm: 1800, worked: [{ id: 'passes', value: 6 }], sizes: {} },
      { size_mm: 3, angle_deg: 25, cusp_mm: 0.02 },
    )
    const params = Object.fromEntries(new URLSearchParams(one!.to.split('?')[1]))
    expect(params).toEqual({
      size_mm: '3',
      angle_deg: '25',
      cusp_mm: '0.02',
      quantity: '40',
      material: 'c45',
      length_mm: '300',
    })
  })
  it('takes a broken edge as a slope of 45°', () => {
    const [one] = asked(
      'slope-methods',
      { kind: 'chamfer', path_mm: 320, worked: [], sizes: {} },
      { size_mm: 0.4 },
    )
    expect(new URLSearchParams(one!.to.split('?')[1]).get('angle_deg')).toBe('45')
  })
  it('has nothing for the rest', () => {
    expect(asked('', { kind: 'tap', depth_mm: 10, sizes: {} }, {})).toEqual([])
    expect(asked('hole-methods', { kind: 'drill', depth_mm: null, sizes: {} }, {})).toEqual([])
  })
})

describe('a calculator opened from a turned operation', () => {
  it('takes the diameter cut at, the contour and the thread instead of the tool', () => {
    const op = {
      id: 'g30',
      kind: 'turn_rough',
      rpm: 827.606,
      feed_per_rev_mm: 0.25,
      depth_mm: 1.94,
      width_mm: null,
    } as unknown as OperationResult
    const figures = {
      'g30.cutting_speed': [130, 'f', []],
      'g30.chip': [0.25, 'f', []],
      'g30.thread_depth': [0.92, 'f', []],
    }
    const known = {
      ...about,
      op,
      planned: {
        on: {
          at_mm: [
            [0, 30],
            [-34, 30],
            [-34, 48],
          ],
        },
        depth_mm: 2,
        leave_mm: 0.3,
        passes: 6,
        starts: 1,
        pitch_mm: 1.5,
      },
      tool: { diameter_mm: 25, corner_radius_mm: 0.8 },
      stiffness: {},
      evaluation: { figures } as unknown as Evaluation,
    }
    const wanted = [
      'diameter_mm',
      'start_diameter_mm',
      'finish_diameter_mm',
      'max_depth_mm',
      'finish_allowance_mm',
      'nose_radius_mm',
      'cutting_speed_m_min',
      'feed_per_rev_mm',
      'thread_depth_mm',
      'pitch_mm',
      'passes',
    ]
    const params = Object.fromEntries(
      new URLSearchParams(
        benchLink(
          calculator(
            'any',
            wanted.map((name) => parameter(name)),
          ),
          'TW-520',
          known,
        ).split('?')[1],
      ),
    )
    expect(params).toEqual({
      diameter_mm: '50',
      start_diameter_mm: '50',
      finish_diameter_mm: '30',
      max_depth_mm: '2',
      finish_allowance_mm: '0.3',
      nose_radius_mm: '0.8',
      cutting_speed_m_min: '130',
      feed_per_rev_mm: '0.25',
      thread_depth_mm: '0.92',
      pitch_mm: '1.5',
      passes: '6',
      for: 'TW-520.g30',
    })
  })
})

describe('a calculator opened from an operation', () => {
  it('takes what the operation says and leaves out what it does not', () => {
    const link = benchLink(
      calculator('milling-load', [
        parameter('diameter_mm'),
        parameter('rpm'),
        parameter('kc11_n_mm2'),
        parameter('efficiency', false, 0.85),
        parameter('jaw_mass_kg'),
      ]),
      'TW-118',
      about,
    )
    expect(link).toBe('/bench/milling-load?diameter_mm=12&rpm=9300&kc11_n_mm2=700&for=TW-118.a40')
  })
  it('describes the tool from its tip to the holder: flutes, neck, shank', () => {
    const link = benchLink(
      calculator('tool-deflection', [parameter('force_n'), parameter('sections')]),
      'TW-118',
      about,
    )
    expect(new URLSearchParams(link.split('?')[1]).get('sections')).toBe(
      '26:9.6:600,10:11.5:600,4:12:600',
    )
    expect(new URLSearchParams(link.split('?')[1]).get('force_n')).toBe('96.5')
  })
  it('gives one of two inputs that stand for each other', () => {
    const link = benchLink(
      calculator(
        'x',
        [parameter('depth_mm', false), parameter('radial_width_mm', false)],
        [['depth_mm', 'radial_width_mm']],
      ),
      'J',
      about,
    )
    expect(link).toBe('/bench/x?depth_mm=26&for=J.a40')
  })
})

describe('labels', () => {
  it.each([
    ['diameter_mm', 'Diameter'],
    ['cutting_speed_m_min', 'Cutting speed'],
    ['max_feed_mm_min', 'Largest feed'],
    ['feed_per_rev_mm', 'Feed a turn'],
    ['kc11_n_mm2', 'kc1.1'],
    ['specific_force_n_mm2', 'Specific force'],
    ['setup_a_s', 'Setup a'],
  ])('%s is %s', (name, label) => {
    expect(labelOf(name)).toBe(label)
  })
})

describe('results', () => {
  it.each([
    [2.77314, 'power', '2.773 kW'],
    [9284.038, 'rpm', '9284 rpm'],
    [0.041441, 'size', '0.04144 mm'],
    [36.8699, 'angle', '36.87°'],
    [104.4576, 'power', '104.46 kW'],
    [0, 'power', '0.00 kW'],
  ])('%d shows at least four digits', (value, quantity, words) => {
    setDisplay({
      power: {
        metric: { unit: 'kW', per: 1, digits: 2 },
        inch: { unit: 'hp', per: 0.7457, digits: 2 },
      },
      rpm: { metric: { unit: 'rpm', per: 1, digits: 0 }, inch: { unit: 'rpm', per: 1, digits: 0 } },
      size: {
        metric: { unit: 'mm', per: 1, digits: 3 },
        inch: { unit: 'in', per: 25.4, digits: 4 },
      },
      angle: { metric: { unit: '°', per: 1, digits: 1 }, inch: { unit: '°', per: 1, digits: 1 } },
    })
    expect(precise(value, quantity, 'metric')).toBe(words)
  })
})
