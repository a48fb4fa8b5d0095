import { queryOptions } from '@tanstack/react-query'
import type { BufferGeometry, Mesh } from 'three'
import { type GLTF, GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { bytesAt } from '../api/client'

// A solid by where it is asked for; it never changes.
export const solidAt = (url: string) =>
  queryOptions({
    queryKey: ['solid', url],
    meta: { shown: true },
    staleTime: Infinity,
    queryFn: async () => new GLTFLoader().parseAsync(await bytesAt(url), ''),
  })

export function bodyOf(file: GLTF): BufferGeometry | null {
  let found: BufferGeometry | null = null
  file.scene.traverse((each) => {
    if ((each as Mesh).isMesh) found = (each as Mesh).geometry
  })
  return found
}
