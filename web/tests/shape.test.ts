import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { describe, expect, it } from 'vitest'

const ROOT = join(__dirname, '..', 'src')
const MOST_LINES = 250

function files(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return files(path)
    return /\.tsx?$/.test(name) && name !== 'schema.d.ts' ? [path] : []
  })
}

const sources = new Map(files(ROOT).map((path) => [path, readFileSync(path, 'utf8')]))

function imports(path: string): string[] {
  const named = [...sources.get(path)!.matchAll(/from '(\.[^']*)'|import\('(\.[^']*)'\)/g)]
  return named.flatMap(([, plain, late]) => {
    const at = normalize(join(dirname(path), plain ?? late ?? ''))
    return [`${at}.ts`, `${at}.tsx`].filter((each) => sources.has(each))
  })
}

// The first way that leads back to where it began, file by file.
function circle(path: string, way: string[], done: Set<string>): string[] | null {
  if (way.includes(path)) return [...way.slice(way.indexOf(path)), path]
  if (done.has(path)) return null
  done.add(path)
  for (const next of imports(path)) {
    const found = circle(next, [...way, path], done)
    if (found) return found
  }
  return null
}

describe('the shape of the source', () => {
  it('reads all of it', () => {
    expect(sources.size).toBeGreaterThan(90)
    expect(imports(join(ROOT, 'places', 'JobFrame.tsx')).length).toBeGreaterThan(5)
  })
  it('has no file that imports itself by a detour', () => {
    const done = new Set<string>()
    for (const path of sources.keys()) expect(circle(path, [], done)).toBeNull()
  })
  it.each([...sources.keys()].map((path) => [path.slice(ROOT.length + 1), path]))(
    'keeps %s short',
    (_, path) => {
      expect(sources.get(path!)!.split('\n').length - 1).toBeLessThan(MOST_LINES)
    },
  )
})
