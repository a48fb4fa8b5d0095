// Seconds to pixels along the rail: to scale, but no block narrower than its number. Ticks follow the same bend,
// so the scale never lies. Long plans fold the setups that are not looked at.
import type { Evaluation, SetupResult } from '../api/client'

export type Block = {
  kind: 'operation' | 'handling' | 'attended' | 'folded'
  id: string
  setup: string
  start: number
  seconds: number
  change: number
  x: number
  width: number
  changeWidth: number
}
const LEAST_BLOCK = 26
const LEAST_CHANGE = 5
const LEAST_HANDLING = 64
const LEAST_ATTENDED = 30
export const FOLD_FROM = 24
export const SIDE = 96 // what blank and part take at either end

export function layOut(
  evaluation: Evaluation,
  width: number,
  open: string,
  handlingOf: (setup: SetupResult) => number,
): Block[] {
  const count = evaluation.setups.reduce((sum, setup) => sum + setup.operations.length, 0)
  const fold = count > FOLD_FROM
  const blocks: Block[] = []
  let at = 0
  evaluation.setups.forEach((setup, place) => {
    if (place > 0) {
      const handling = handlingOf(setup)
      blocks.push(block('handling', setup.id, setup.id, at, handling, 0))
      at += handling
    }
    if (fold && setup.id !== open) {
      blocks.push(block('folded', setup.id, setup.id, at, setup.cycle_s, 0))
      at += setup.cycle_s
      return
    }
    for (const op of setup.operations) {
      const seconds = (...kinds: string[]) =>
        setup.events
          .filter((each) => each.operation === op.id && kinds.includes(each.kind))
          .reduce((sum, each) => sum + each.seconds, 0)
      const byHand = (kind: string) => {
        const attended = seconds(kind)
        if (attended <= 0) return
        blocks.push(block('attended', `${kind} ${op.id}`, setup.id, at, attended, 0))
        at += attended
      }
      byHand('range')
      const before = seconds('change', 'start', 'move')
      const own = op.time_s * op.times
      blocks.push(block('operation', op.id, setup.id, at, own, before))
      at += before + own
      byHand('stop')
    }
  })
  place(blocks, width)
  return blocks
}

function block(
  kind: Block['kind'],
  id: string,
  setup: string,
  start: number,
  seconds: number,
  change: number,
): Block {
  return { kind, id, setup, start, seconds, change, x: 0, width: 0, changeWidth: 0 }
}

function place(blocks: Block[], width: number) {
  const least = (b: Block) =>
    b.kind === 'handling'
      ? LEAST_HANDLING
      : b.kind === 'attended'
        ? LEAST_ATTENDED
        : b.kind === 'folded'
          ? 2 * LEAST_BLOCK
          : LEAST_BLOCK
  const spans = blocks.flatMap((b) => [
    { seconds: b.seconds, least: least(b) },
    ...(b.change > 0 ? [{ seconds: b.change, least: LEAST_CHANGE }] : []),
  ])
  const scale = fit(spans, width)
  let x = 0
  for (const b of blocks) {
    b.changeWidth = b.change > 0 ? Math.max(LEAST_CHANGE, b.change * scale) : 0
    b.x = x + b.changeWidth
    b.width = Math.max(least(b), b.seconds * scale)
    x = b.x + b.width
  }
}

// The pixels a second gets when what is too short keeps its least width and the rest shares what is left.
function fit(spans: { seconds: number; least: number }[], width: number): number {
  let low = 0
  let high = width / Math.max(1e-6, Math.max(...spans.map((s) => s.seconds), 1e-6))
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2
    const needed = spans.reduce((sum, s) => sum + Math.max(s.least, s.seconds * middle), 0)
    if (needed > width) high = middle
    else low = middle
  }
  return low
}

export function xOf(seconds: number, blocks: Block[]): number {
  for (const b of blocks) {
    const began = b.start
    if (seconds <= began + b.change)
      return (
        b.x - b.changeWidth + (b.change > 0 ? ((seconds - began) / b.change) * b.changeWidth : 0)
      )
    if (seconds <= began + b.change + b.seconds)
      return b.x + ((seconds - began - b.change) / Math.max(b.seconds, 1e-9)) * b.width
  }
  const last = blocks[blocks.length - 1]
  return last ? last.x + last.width : 0
}
