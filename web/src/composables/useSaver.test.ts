import { describe, expect, it } from 'vitest'
import { Failure } from '../shell/api'
import { useSaver } from './useSaver'

const failing = (failure: unknown) => () => Promise.reject(failure as Error)

describe('a form that is saved', () => {
  it('is busy meanwhile and takes no second click', async () => {
    const saver = useSaver()
    let finish = () => {}
    let calls = 0
    const first = saver.save(() => new Promise<void>((resolve) => ((calls += 1), (finish = resolve))))
    expect(saver.isBusy.value).toBe(true)
    expect(await saver.save(async () => void (calls += 1))).toBe(false)
    finish()
    expect(await first).toBe(true)
    expect([calls, saver.isBusy.value]).toEqual([1, false])
  })

  it('shows a refusal beside the field that it is about, and nowhere else', async () => {
    const saver = useSaver()
    expect(await saver.save(failing(new Failure('unit_unknown', 'No such unit.', '', { field: 'unit' })))).toBe(false)
    expect(saver.fieldErrors.value).toEqual({ unit: 'No such unit.' })
    expect(saver.note.value).toBeNull()
  })

  it('shows every field of an invalid input', async () => {
    const saver = useSaver()
    const fields = [
      { field: 'code', problem: 'too short' },
      { field: 'lines.0.quantity', problem: 'not a number' },
    ]
    await saver.save(failing(new Failure('input_invalid', '', '', { fields })))
    expect(saver.fieldErrors.value).toEqual({ code: 'too short', 'lines.0.quantity': 'not a number' })
  })

  it('tells a change that came too late apart, and what belongs to no field on top', async () => {
    const saver = useSaver()
    await saver.save(failing(new Failure('stale_version', 'Somebody was faster.', '')))
    expect([saver.isStale.value, saver.note.value]).toEqual([true, null])
    await saver.save(failing(new Error('odd')))
    expect(saver.note.value).toMatchObject({ message: 'odd' })
    await saver.save(async () => undefined)
    expect(saver.failure.value).toBeNull()
  })
})
