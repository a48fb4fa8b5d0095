import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { setUnits, type Units } from '../src/ui/entry'
import { type DisplayTable, setDisplay } from '../src/ui/format'
import { parse } from './toml'

// Units, drill sizes and digits as the server sends them, from the core itself.
export function knowUnits() {
  const code =
    'import json; from machining.quantities.units import QUANTITIES as q; from machining.quantities.entry import drill_sizes as d; print(json.dumps([{k: {"base": b, "units": u} for k, (b, u) in q.items()}, d()]))'
  const [units, drills] = JSON.parse(
    execFileSync('../.venv/bin/python', ['-c', code], {
      cwd: '.',
      env: { ...process.env, PYTHONPATH: '..' },
      encoding: 'utf8',
    }),
  ) as [Units, Record<string, number>]
  setUnits(units, drills)
  setDisplay(parse(readFileSync('../machining/data/display.toml', 'utf8')) as DisplayTable)
}
