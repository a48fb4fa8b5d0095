import { Matrix4 } from 'three'

type Rows = Parameters<Matrix4['set']>

// Of the twelve numbers of a 3x4 matrix, row by row, and back.
export const matrixOf = (twelve: number[]) =>
  new Matrix4().set(...([...twelve, 0, 0, 0, 1] as Rows))
export const rowsOf = (of: Matrix4) => new Matrix4().copy(of).transpose().elements.slice(0, 12)
// Of the nine numbers of a rotation.
export const turnOf = (nine: number[]) =>
  matrixOf([0, 3, 6].flatMap((row) => [...nine.slice(row, row + 3), 0]))
