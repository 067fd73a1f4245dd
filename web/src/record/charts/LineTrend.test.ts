import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { queryClient } from '../../shell/queries'
import LineTrend from './LineTrend.vue'

const line = { id: 'line', code: 'C-GAP', kind: 'measured', lower: '0', upper: '10', resolution: '0.1', unit: 'mm', details: { recording: 'pieces' } }
let means: number[]
beforeEach(() => {
  localStorage.clear()
  queryClient.clear()
  vi.stubGlobal('fetch', async () => {
    const values = means.map((number, i) => ({ number, takenAt: `2026-03-${10 + i}T08:00:00.000Z`, piece: 1, inspectionId: `i${i}`, code: `I-${i}` }))
    return new Response(JSON.stringify({ values, total: values.length }))
  })
})
afterEach(() => vi.unstubAllGlobals())
async function show(numbers: readonly number[]) {
  const trend = mount(LineTrend as never, {
    props: { inspectionId: 'own', code: 'I-OWN', line, numbers } as never,
    global: { stubs: { ControlChart: true, ErrorNote: true } },
  })
  await flushPromises()
  return trend
}
const warnings = (trend: Awaited<ReturnType<typeof show>>) => trend.findAll('[data-test=chart-warning]').map((words) => words.text())

it('folded away, it still warns of a drift: how fast, towards which limit, and in how many samples', async () => {
  means = [4, 4.6, 5.1, 5.4, 6.1, 6.6, 7.1, 7.4]
  const trend = await show([8])
  expect(trend.find('[data-test=chart]').attributes('aria-expanded')).toBe('false')
  expect(warnings(trend).at(-1)).toMatch(
    /^Drift: rising 0\.4\d mm a sample\. At this rate the mean reaches the upper limit in about \d more samples \(\d to \d, 95 %\)\.$/,
  )
})

it('says nothing while nothing is wrong, nor before the own sample is begun', async () => {
  means = [5, 5.1, 4.9, 5, 5.2, 4.9, 5.1, 5]
  expect(warnings(await show([5]))).toEqual([])
  means = [4, 4.6, 5.1, 5.4, 6.1, 6.6, 7.1, 7.4]
  queryClient.clear()
  expect(warnings(await show([]))).toEqual([])
})

it('unfolded, it says how many samples limits need where there are too few', async () => {
  means = [5, 5.1]
  const trend = await show([5])
  await trend.find('[data-test=chart]').trigger('click')
  expect(trend.text()).toContain('Limits need 8 earlier samples (20 to 25 are common practice); there are 2.')
})
