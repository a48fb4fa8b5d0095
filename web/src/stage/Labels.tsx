import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { Vector3 } from 'three'
import type { Label } from './types'

const TONES: Record<string, string> = {
  zero: 'bg-surface/75 px-0.5 text-small n font-semibold text-brass',
  stop: 'bg-surface/75 px-0.5 text-small font-semibold text-red',
  pick: 'n grid size-[18px] place-items-center rounded-full border border-mark bg-paper text-small font-semibold text-mark',
  mark: 'text-ink-2',
}
const BRASS = '#9c5a24'
const PLAIN = 'bg-surface/75 px-0.5 text-small text-ink-2'

// Words that follow points of the drawing, as HTML over it.
export function Labels({
  labels,
  overlay,
}: {
  labels: Label[]
  overlay: React.RefObject<HTMLDivElement | null>
}) {
  const { camera, size, invalidate } = useThree()
  const held = useRef<HTMLElement[]>([])
  useEffect(() => {
    const host = overlay.current
    if (!host) return
    held.current = labels.map((label) => {
      const tag = document.createElement('span')
      if (label.tone === 'mark') tag.append(zeroMark())
      else tag.textContent = label.words
      tag.className = `absolute left-0 top-0 whitespace-nowrap ${TONES[label.tone ?? ''] ?? PLAIN}`
      host.appendChild(tag)
      return tag
    })
    invalidate()
    return () => held.current.forEach((tag) => tag.remove())
  }, [labels, overlay, invalidate])
  useFrame(() => {
    labels.forEach((label, k) => {
      const at = new Vector3(...(label.at as [number, number, number])).project(camera)
      const tag = held.current[k]
      if (tag)
        tag.style.transform = `translate(${((at.x + 1) / 2) * size.width + (label.dx ?? 0)}px, ${((1 - at.y) / 2) * size.height + (label.dy ?? 0)}px)`
    })
  })
  return null
}

// The quartered circle of a work zero.
function zeroMark(): SVGElement {
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('viewBox', '0 0 14 14')
  svg.setAttribute('width', '17')
  svg.setAttribute('height', '17')
  for (const [name, values] of [
    ['circle', { cx: '7', cy: '7', r: '6', fill: '#ffffff', stroke: BRASS, 'stroke-width': '1.4' }],
    ['path', { d: 'M7 7V1a6 6 0 0 1 6 6ZM7 7v6a6 6 0 0 1-6-6Z', fill: BRASS }],
  ] as const) {
    const shape = document.createElementNS('http://www.w3.org/2000/svg', name)
    for (const [key, value] of Object.entries(values)) shape.setAttribute(key, value)
    svg.append(shape)
  }
  return svg
}
