import type { ReactNode } from 'react'
import type { Item } from '../../api/client'
import { Figure } from '../../ui/Figure'

export type Data = Record<string, unknown>
export type Column = [head: string, show: (data: Data, all: Item[]) => ReactNode]
export const fig = (name: string, quantity: string) => (data: Data) => (
  <Figure value={data[name] as number} quantity={quantity} />
)
export const text = (name: string) => (data: Data) => String(data[name] ?? '')
