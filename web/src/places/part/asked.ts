import { called, type Feature, holeAt, SIDE } from './feature'

const FACES: Record<string, string> = {
  '+z': 'the top face',
  '-z': 'the bottom face',
  '+x': 'the right face',
  '-x': 'the left face',
  '+y': 'the back face',
  '-y': 'the front face',
}

// Where the drawing can ask for something: faces first, then what was found in the solid.
export function placesOf(features: Feature[]) {
  return [
    ...features
      .filter((each) => each.kind === 'flat' && each.outermost)
      .map((each) => ({ value: each.id, label: FACES[each.faces ?? ''] ?? 'a face' })),
    ...features
      .filter((each) => each.kind !== 'flat')
      .map((each) => ({ value: each.id, label: inShort(each) })),
  ]
}

function inShort(of: Feature) {
  if (of.kind === 'hole') {
    const { side, at } = holeAt(of)
    const where = at.map((v) => Number(v.toFixed(2))).join(', ')
    return `hole Ø${of.diameter_mm} ${side && `in the ${side} side `}at ${where}`
  }
  if (of.kind === 'boss') return `boss Ø${of.diameter_mm}, ${of.length_mm} long`
  if (of.kind === 'pocket') return `${called(of)} ${of.depth_mm} deep`
  if (of.kind === 'slanted')
    return `${called(of)}, ${of.lean_deg}° from its ${SIDE[String(of.opens)]}`
  return of.kind === 'edge' ? `${of.shape} of ${of.size_mm}` : called(of)
}
