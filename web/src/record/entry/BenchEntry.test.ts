import { noDetails, type InspectionLine } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import BenchEntry from './BenchEntry.vue'
import type { Answer } from './cells'

const line = (kind: 'measured' | 'judged') =>
  ({
    id: 'l',
    name: 'Gate gap',
    kind,
    unit: kind === 'measured' ? 'mm' : null,
    resolution: '0.01',
    details: noDetails,
    lower: '0.25',
    upper: '0.35',
    nominal: null,
    sampleSize: 5,
    acceptableState: 'No burr',
  }) as InspectionLine
const kept: Answer = { id: 'a', value: '0.30', mark: 'conforming', status: 'stored', corrections: 0 }
function show(props: object = {}) {
  return mount(BenchEntry as never, {
    props: {
      line: line('measured'),
      units: ['mm'],
      piece: 2,
      current: null,
      liveMark: null,
      doubt: null,
      message: '',
      modelValue: '',
      ...props,
    } as never,
    global: { stubs: { 'v-btn': { template: '<button type="button"><slot /></button>' } } },
    attachTo: document.body,
  })
}
const before = (entry: ReturnType<typeof mount>, data: string | null) => {
  const event = new InputEvent('beforeinput', { data, bubbles: true, cancelable: true } as InputEventInit)
  entry.find('input').element.dispatchEvent(event)
  return event.defaultPrevented
}

describe('the place for the next value', () => {
  it('lets digits, one point or comma and a minus in, and no letter', () => {
    const entry = show()
    expect(['1', '-', ',', '.'].map((key) => before(entry, key))).toEqual([false, false, false, false])
    expect(['a', 'e', ' ', '12mm', '--'].map((key) => before(entry, key))).toEqual([true, true, true, true, true])
    ;(entry.find('input').element as HTMLInputElement).value = '0.3'
    expect(before(entry, '.')).toBe(true)
    expect(before(entry, null)).toBe(false)
  })

  it('says for whom it asks, keeps on Enter, and hands other keys on', async () => {
    const entry = show()
    expect(entry.find('input').attributes('aria-label')).toBe('Gate gap, piece 2, mm')
    await entry.find('input').trigger('keydown', { key: 'Enter' })
    await entry.find('input').trigger('keydown', { key: 'ArrowDown' })
    expect(entry.emitted('enter')).toHaveLength(1)
    expect((entry.emitted('key')?.at(-1)?.[0] as KeyboardEvent).key).toBe('ArrowDown')
  })

  it('shows the mark while it is typed, the answer that stands, or what is wrong: one of them', () => {
    expect(show({ liveMark: 'nonconforming' }).find('.beside').text()).toBe('outside the limits')
    expect(show({ liveMark: 'conforming' }).find('.beside').text()).toBe('inside the limits')
    expect(show({ current: kept }).find('.beside').text().replaceAll(/\s+/g, ' ')).toBe('holds 0.30; a new value corrects it, both are kept')
    expect(show({ current: kept, message: 'finer than the resolution' }).find('.beside').text()).toBe('finer than the resolution')
  })

  it('hands a paste on whole', async () => {
    const entry = show()
    const data = new DataTransfer()
    data.setData('text', '0.30\n0.31')
    entry.find('input').element.dispatchEvent(Object.assign(new Event('paste', { bubbles: true, cancelable: true }), { clipboardData: data }))
    expect(entry.emitted('paste')).toEqual([['0.30\n0.31']])
  })
})

describe('a judged line', () => {
  it('is answered with O and X in either case, or with a click', async () => {
    const entry = show({ line: line('judged') })
    const judge = entry.find('.choice')
    for (const key of ['o', 'X', 'q']) await judge.trigger('keydown', { key })
    await judge.findAll('button')[1]?.trigger('click')
    await judge.trigger('keydown', { key: 'o', ctrlKey: true })
    expect(entry.emitted('answer')).toEqual([['O'], ['X'], ['X']])
    expect((entry.emitted('key')?.[0]?.[0] as KeyboardEvent).key).toBe('q')
    expect(judge.text()).toContain('No burr')
  })
})

describe('a line of another kind', () => {
  const other = (change: Partial<InspectionLine>, details: Partial<InspectionLine['details']>) => ({
    ...line('judged'),
    ...change,
    details: { ...noDetails, ...details },
  })

  it('is answered by the keys of its list, as far as they tell the answers apart', async () => {
    const answers = [
      { code: 'EVEN', words: 'even', verdict: 'conforming' as const, followUpPlanId: null },
      { code: 'EDGE', words: 'bare edge', verdict: 'nonconforming' as const, followUpPlanId: null },
      { code: 'S', words: 'streaks', verdict: 'neither' as const, followUpPlanId: null },
    ]
    const entry = show({ line: other({ kind: 'coded' }, { answers }) })
    for (const key of ['e', 's']) await entry.find('.choice').trigger('keydown', { key })
    await entry.findAll('.choice button')[1]?.trigger('click')
    expect(entry.emitted('answer')).toEqual([['S'], ['EDGE']])
  })

  it('counts by fault code with a button for each', async () => {
    const entry = show({ line: other({ kind: 'counted' }, { faultCodes: ['SCR', 'DENT'], countUnit: 'scratches on a piece' }), modelValue: 'SCR 1' })
    await entry.findAll('.faults button')[0]?.trigger('click')
    expect(entry.emitted('update:modelValue')?.at(-1)).toEqual(['SCR 2'])
  })

  it('offers the other units of a measured quantity, and six figures for a summary', async () => {
    expect(
      show({ units: ['mm', 'in'] })
        .findAll('select option')
        .map((option) => option.text()),
    ).toEqual(['mm', 'in'])
    const entry = show({ line: other({ kind: 'measured', unit: 'mm' }, { recording: 'summary' }) })
    const figures = { count: '5', mean: '0,30', deviation: '0.02', smallest: '0.27', largest: '0.33', nonconforming: '0' }
    for (const [key, value] of Object.entries(figures)) await entry.find(`[data-figure=${key}]`).setValue(value)
    await entry.find('form').trigger('submit')
    expect(entry.emitted('answer')).toEqual([['n 5, mean 0.30, s 0.02, min 0.27, max 0.33, x 0']])
  })
})

describe('the question whether that was measured', () => {
  const doubt = { line: line('measured'), values: [{ piece: 2, value: '0.52' }], all: [{ piece: 2, value: '0.52' }] }

  it('shows value and limits, has the cursor, and is answered with Y or N, never with Enter', async () => {
    const entry = show()
    await entry.setProps({ doubt } as never)
    await nextTick()
    await nextTick()
    const box = entry.find('[role=alertdialog]')
    expect(box.text()).toMatch(/Is that what you measured\?\s*0\.52 mm\s*Limits 0\.25 to 0\.35 mm/)
    expect(document.activeElement).toBe(box.element)
    await box.trigger('keydown', { key: 'Enter' })
    await box.trigger('keydown', { key: '7' })
    expect([entry.emitted('confirm'), entry.emitted('deny')]).toEqual([undefined, undefined])
    await box.trigger('keydown', { key: 'n' })
    await box.trigger('keydown', { key: 'Escape' })
    await box.trigger('keydown', { key: 'y' })
    expect([entry.emitted('confirm')?.length, entry.emitted('deny')?.length]).toEqual([1, 2])
  })

  it('over many pasted values names the first four and counts the rest', () => {
    const values = Array.from({ length: 6 }, (_, i) => ({ piece: i + 1, value: `0.5${i}` }))
    const text = show({ doubt: { ...doubt, values, all: values } })
      .find('[role=alertdialog]')
      .text()
    expect(text).toContain('piece 4: 0.53 mm')
    expect(text).not.toContain('piece 5')
    expect(text).toContain('and 2 more')
  })
})
