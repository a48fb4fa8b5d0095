import { shared } from '../../ui/shared'

// What is shown in the stage's place: the part, the table it stands on, or what holds it.
export const lookedAt = shared<'part' | 'table' | 'hold'>('part')
