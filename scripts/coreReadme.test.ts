import * as core from '@nemawashi/core'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'

const readme = readFileSync(join(import.meta.dirname, '../core/README.md'), 'utf8')
const named = new Set([...readme.matchAll(/`(\w+)`/g)].map(([, name = '']) => name))

describe('the page on the core', () => {
  it('names every public function, and none that is not there', () => {
    const functions = Object.entries(core).flatMap(([name, value]) => (typeof value === 'function' && name !== 'CoreError' ? [name] : []))
    const helpers = ['pieces', 'timesWords', 'positionWords']
    expect(functions.filter((name) => !named.has(name) && !helpers.includes(name))).toEqual([])
    const rows = readme.split('\n').filter((line) => line.startsWith('| `'))
    const listed = rows.flatMap((row) => [...(row.split('|')[1] ?? '').matchAll(/`(\w+)`/g)].map(([, name = '']) => name))
    expect(listed.filter((name) => !(name in core))).toEqual([])
    expect(new Set(listed).size).toBe(listed.length)
  })

  it('shows an example whose answers are the ones it prints', () => {
    const rule = { kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 } as const
    expect(readme).toContain(`// ${core.sampleFor(rule, 1200).reasoning}\n`)
    const { sampleSize, accept } = core.twoPointDesign({ goodFraction: 0.01, producersRisk: 0.05, poorFraction: 0.05, consumersRisk: 0.1 })
    expect(readme).toContain(`// ${sampleSize} ${accept}\n`)
    const { nominal, lower, upper } = core.parseTolerance('25 H7')
    expect(readme).toContain(`// { nominal: '${nominal}', lower: '${lower}', upper: '${upper}', … }`)
  })
})
