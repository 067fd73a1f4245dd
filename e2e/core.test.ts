import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { expect, it } from 'vitest'

it('the core alone answers a script under plain Node', () => {
  const script = `
    import { sampleFor, variablesAcceptance } from '@nemawashi/core/built'
    console.log(sampleFor({ kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 }, 1200).reasoning)
    console.log(variablesAcceptance(35, 1.89, 's')(0.01).toFixed(5))`
  const { stdout, stderr } = spawnSync('node', ['--input-type=module', '--eval', script], {
    cwd: join(import.meta.dirname, '..'),
    encoding: 'utf8',
  })
  expect(stderr).toBe('')
  // The second is 1 − pt(1.89·√35, 34, z·√35) of R 4.2.
  expect(stdout.split('\n')).toEqual(['lot 1200, level II → letter J; AQL 0.65 % → 80 pieces, Ac 1', '0.94167', ''])
})
