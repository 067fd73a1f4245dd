import type { BenchMoment } from '@nemawashi/core'
import type { GaugeUse, SentValue } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, nextTick, ref } from 'vue'
import { useInstruments } from './useInstruments'

/** A connection that a test speaks on. */
class Stream extends EventTarget {
  static readonly opened: Stream[] = []
  isClosed = false
  constructor(readonly address: string) {
    super()
    Stream.opened.push(this)
  }
  close(): void {
    this.isClosed = true
  }
  says(name: string, data: object): void {
    this.dispatchEvent(Object.assign(new Event(name), { data: JSON.stringify(data) }))
  }
}
const use = (gaugeId: string, isSending = true): GaugeUse => ({
  ...{ lineId: 'l', gaugeId, code: gaugeId.toUpperCase(), name: '', dueOn: null, objections: [], reason: '', byName: '', at: '', isSending },
})
const value = (id: string, change: Partial<SentValue> = {}): SentValue => ({ id, gaugeId: 'g', value: '1', unit: 'mm', ageMs: 0, ...change })

const gauges = ref<GaugeUse[]>([])
const isOpen = ref(true)
const moment: Omit<BenchMoment, 'waiting'> = {
  ...{ line: { kind: 'measured', recording: 'pieces', sampleSize: 9 }, gaugeId: 'g', piece: 1, isAnswered: false, isTyping: false, isAsking: false },
}
let now = moment
let taken: string[] = []
let said: string[] = []
let fits = true
const seat = () => {
  let instruments!: ReturnType<typeof useInstruments>
  const page = mount(
    defineComponent({
      setup() {
        instruments = useInstruments('i', {
          ...{ gauges, isOpen, moment: () => now },
          take: ({ id }) => fits && taken.push(id) > 0,
          say: (words) => void said.push(words),
        })
        return () => null
      },
    }),
  )
  return { instruments, page }
}
const stream = () => Stream.opened.at(-1) as Stream

beforeEach(() => vi.stubGlobal('EventSource', Stream))
afterEach(() => {
  Stream.opened.length = 0
  Object.assign(gauges, { value: [] })
  Object.assign(isOpen, { value: true })
  now = moment
  taken = []
  said = []
  fits = true
  vi.unstubAllGlobals()
})

it('listens while a gauge that sends is chosen and the inspection is open, to the one address, and no longer', async () => {
  const { page } = seat()
  expect(Stream.opened).toEqual([])
  gauges.value = [use('f', false)]
  await nextTick()
  expect(Stream.opened).toEqual([])
  gauges.value = [use('f', false), use('g'), use('g')]
  await nextTick()
  expect(Stream.opened.map(({ address }) => address)).toEqual(['/api/v1/inspections/i/sent-values'])
  isOpen.value = false
  await nextTick()
  expect([Stream.opened.length, stream().isClosed]).toEqual([1, true])
  isOpen.value = true
  await nextTick()
  const sees = vi.spyOn(document, 'visibilityState', 'get').mockReturnValue('hidden')
  document.dispatchEvent(new Event('visibilitychange'))
  await nextTick()
  expect([Stream.opened.length, stream().isClosed]).toEqual([2, true])
  sees.mockRestore()
  document.dispatchEvent(new Event('visibilitychange'))
  await nextTick()
  expect([Stream.opened.length, stream().isClosed]).toEqual([3, false])
  page.unmount()
  expect(stream().isClosed).toBe(true)
})

it('takes a value into the open cell, keeps the order of what waits, and loses none', () => {
  gauges.value = [use('g')]
  const { instruments } = seat()
  stream().says('value', value('1'))
  expect(taken).toEqual(['1'])
  now = { ...moment, isTyping: true }
  stream().says('value', value('2'))
  now = moment
  // What came first is not overtaken, though the cell is free again.
  stream().says('value', value('3'))
  expect(instruments.waiting.value.map(({ id, reason, code }) => [id, reason, code])).toEqual([
    ['2', 'typing', 'G'],
    ['3', 'queued', 'G'],
  ])
  instruments.takeFirst()
  expect([taken, instruments.waiting.value.map(({ id }) => id)]).toEqual([['1', '2'], ['3']])
  fits = false
  instruments.takeFirst()
  expect(instruments.waiting.value.map(({ id }) => id)).toEqual(['3'])
  instruments.leave('3')
  stream().says('value', value('4'))
  expect(instruments.waiting.value.map(({ id, reason }) => [id, reason])).toEqual([['4', 'unfit']])
})

it('says how it stands with each instrument: connected, gone, heard elsewhere, the server away; and what was refused', () => {
  gauges.value = [use('g'), use('h')]
  const { instruments } = seat()
  const standingOf = (gaugeId: string) => instruments.standing.value.get(gaugeId)
  stream().dispatchEvent(new Event('open'))
  stream().says('alive', { gaugeId: 'g', agoMs: 1_000 })
  stream().says('alive', { gaugeId: 'h', agoMs: null })
  expect(Math.abs(Date.now() - 1_000 - (standingOf('g')?.heardAtMs ?? 0))).toBeLessThan(500)
  expect(standingOf('h')).toEqual({ isOpen: true, heardAtMs: null, replacedBy: null })
  stream().says('replaced', { gaugeId: 'h', byName: 'Rosa', inspectionCode: 'I-2' })
  expect(standingOf('h')?.replacedBy).toBe('Rosa, I-2')
  stream().dispatchEvent(new Event('error'))
  expect([standingOf('g')?.isOpen, standingOf('h')?.isOpen]).toEqual([false, false])
  stream().says('refused', { gaugeId: 'g', code: 'gauge_unfit', message: 'G is locked.' })
  expect(said).toEqual(['G: G is locked.'])
  instruments.listen()
  expect([Stream.opened.length, standingOf('h')]).toEqual([2, undefined])
})
