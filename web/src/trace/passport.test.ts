import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { createPinia } from 'pinia'
import { queryClient } from '../shell/queries'
import PassportSheet from './PassportSheet.vue'

const lot = {
  id: 'l',
  code: 'L-000001',
  partCode: 'BS-16',
  partName: 'Bar stock',
  partId: 'p',
  unit: 'bar',
  supplierName: 'Marrow Vale',
  supplierLot: 'MV-1',
  quantity: 100,
  receivedAt: '2026-03-02T08:00:00Z',
  originKind: 'delivery',
  originId: 'd',
  originCode: 'D-000001',
  orderNumber: '4711',
}
const event = (kind: string, title: string, standingsAfter: object, change: object = {}) => ({
  at: '2026-03-02T08:00:00Z',
  kind,
  title,
  detail: '',
  byName: null,
  verdict: null,
  inspectionId: null,
  seal: null,
  standingsAfter,
  ...change,
})
const passport = {
  lot,
  balances: [
    { standing: 'released', quantity: 60 },
    { standing: 'returned', quantity: 40 },
  ],
  events: [
    event('received', 'Received, 100 bars', { onHold: 100 }, { byName: 'Dario Petz' }),
    event(
      'inspectionFinished',
      'Inspected: Bar stock',
      { onHold: 100 },
      { verdict: 'notAcceptable', detail: 'Hardness: 1 nonconforming of 5, decisive → lot not acceptable', inspectionId: 'i1' },
    ),
    event(
      'decided',
      'Decided: split',
      { released: 60, returned: 40 },
      { seal: { initials: 'AM', meaning: 'split', signedAt: '2026-03-02T10:00:00Z' } },
    ),
  ],
  underConcession: 0,
  movements: [
    { at: '2026-03-02T08:00:00Z', quantity: 100, containerLabel: null, from: null, to: 'Bay, on hold', kind: 'received', byName: 'Dario Petz' },
  ],
}
afterEach(() => {
  queryClient.clear()
  vi.unstubAllGlobals()
})
async function show(answer: Response) {
  vi.stubGlobal('fetch', async () => answer)
  const sheet = mount(PassportSheet, {
    props: { id: 'l' },
    global: { plugins: [createPinia()], stubs: { 'router-link': { template: '<a><slot /></a>' } } },
  })
  await vi.waitFor(() => expect(sheet.text()).toMatch(/L-000001|no lot/))
  await flushPromises()
  return sheet
}

describe('the passport on the page', () => {
  it('tells what happened, oldest first, with verdict, report and seal where they belong', async () => {
    const sheet = await show(new Response(JSON.stringify(passport)))
    const steps = sheet.findAll('.spine li')
    expect(steps.map((step) => step.find('b').text())).toEqual(['Received, 100 bars', 'Inspected: Bar stock', 'Decided: split'])
    expect(steps[0]?.text()).toContain('by Dario Petz')
    expect(steps[1]?.find('.mark').attributes('aria-label')).toBe('nonconforming')
    expect(steps[1]?.find('[data-test=report-pdf]').attributes('href')).toBe('/api/v1/inspections/i1/report.pdf')
    expect(steps[2]?.find('.seal').attributes('aria-label')).toContain('sealed by AM: split')
    expect(sheet.find('.together').text()).toBe('together 100 bars, as received')
  })

  it('has a spine as wide as what is still here: returned pieces leave it', async () => {
    const sheet = await show(new Response(JSON.stringify(passport)))
    const widths = sheet
      .findAll('.bone')
      .map((bone) => bone.findAll('span').reduce((sum, part) => sum + Number.parseFloat((part.element as HTMLElement).style.width), 0))
    expect(widths[0]).toBeCloseTo(44, 5)
    expect(widths[2]).toBeCloseTo(44 * 0.6, 5)
  })

  it('lists every movement of the ledger', async () => {
    const sheet = await show(new Response(JSON.stringify(passport)))
    expect(sheet.find('.sheet > details > summary').text()).toBe('Movements, 1')
    expect(sheet.find('.sheet > details tbody').text().replaceAll(/\s+/g, ' ')).toContain('100 – outside Bay, on hold received Dario Petz')
  })

  it('says so when there is no such lot', async () => {
    const sheet = await show(
      new Response(JSON.stringify({ error: { code: 'not_found', message: 'There is no lot with the id l.', help: '', facts: {} } }), { status: 404 }),
    )
    expect(sheet.text()).toContain('There is no lot with the id l.')
  })
})
