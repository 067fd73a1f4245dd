import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CoreError, judgeSample, type Stage } from '../../index'

/** What can come of a count, by trying every number of further nonconforming pieces (or nonconformities) at the end of each stage. */
function tried(stages: readonly Stage[], i: number, left: number, found: number, isPerUnit: boolean): Set<string> {
  const results = new Set<string>()
  const { accept, reject } = stages[i] as Stage
  const isLast = i === stages.length - 1
  // A unit may hold any number: beyond the largest rejection number it makes no difference.
  const most = isPerUnit && left > 0 ? Math.max(...stages.map((stage) => stage.reject)) : left
  for (let further = 0; further <= most; further++) {
    const count = found + further
    if (count >= reject) results.add('notAccept')
    else if (count <= (accept ?? -1)) results.add('accept')
    else if (isLast) results.add('acceptInGap')
    else for (const result of tried(stages, i + 1, (stages[i + 1] as Stage).sampleSize, count, isPerUnit)) results.add(result)
  }
  return results
}

const plan = fc
  .array(fc.record({ sampleSize: fc.integer({ min: 1, max: 5 }), accept: fc.integer({ min: 0, max: 2 }), gap: fc.integer({ min: 1, max: 3 }) }), {
    minLength: 1,
    maxLength: 3,
  })
  .map((drawn) => {
    let [accept, reject] = [-1, 0]
    return drawn.map(({ sampleSize, accept: more, gap }, i): Stage => {
      accept += more
      reject = Math.max(reject, accept + (i === drawn.length - 1 ? Math.max(1, gap - 1) : gap + 1), 1)
      return { sampleSize, accept: accept < 0 ? null : accept, reject }
    })
  })

describe('a sample so far', () => {
  it('goes on as long as something can change the verdict, and not a piece longer', () => {
    let seen = 0
    fc.assert(
      fc.property(plan, fc.boolean(), (stages, isPerUnit) => {
        let end = 0
        for (const [i, { sampleSize }] of stages.entries()) {
          const began = end
          end += sampleSize
          for (let inspected = began + (i === 0 ? 0 : 1); inspected <= end; inspected++)
            for (let found = 0; found <= (isPerUnit ? 9 : inspected); found++) {
              const before = stages[i - 1]
              // Nobody gets here with fewer than let the stage before go on.
              if (before && found <= (before.accept ?? -1)) continue
              let judged
              try {
                judged = judgeSample(stages, { inspected, found }, isPerUnit)
              } catch (error) {
                // A plan that could never be carried out.
                if (error instanceof CoreError && error.code !== 'quantity_invalid') return
                throw error
              }
              const { accept, reject } = stages[i] as Stage
              if (inspected === end && i < stages.length - 1 && found > (accept ?? -1) && found < reject) continue
              const can = tried(stages, i, end - inspected, found, isPerUnit)
              const wanted = !can.has('notAccept') ? 'accept' : can.size === 1 ? 'notAccept' : 'goOn'
              expect(judged.verdict, JSON.stringify({ stages, inspected, found, isPerUnit, can: [...can] })).toBe(wanted)
              if (wanted === 'accept') expect(judged.returnsToNormal).toBe(can.size === 2 ? null : can.has('acceptInGap'))
              seen += 1
            }
        }
      }),
      { numRuns: 400 },
    )
    expect(seen).toBeGreaterThan(2000)
  })

  it('says how many pieces at least are left to a certain result, on the way that leads there soonest', () => {
    fc.assert(
      fc.property(plan, fc.integer({ min: 0, max: 1 }), (stages, step) => {
        try {
          const begin = judgeSample(stages, { inspected: 0, found: 0 })
          const soonest = step === 0 ? begin.soonestAccept : begin.soonestNotAccept
          const wanted = step === 0 ? 'accept' : 'notAccept'
          if (begin.verdict !== 'goOn' || soonest === null) return
          for (let inspected = 1; inspected < soonest; inspected++)
            expect(judgeSample(stages, { inspected, found: inspected * step }).verdict, JSON.stringify(stages)).not.toBe(wanted)
          expect(judgeSample(stages, { inspected: soonest, found: soonest * step }).verdict, JSON.stringify(stages)).toBe(wanted)
        } catch (error) {
          if (!(error instanceof CoreError)) throw error
        }
      }),
    )
  })
})
