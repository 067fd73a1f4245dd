import type { Flow, FlowPoint } from '@nemawashi/contract'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import FlowLine from './FlowLine.vue'

const point = (change: Partial<FlowPoint>): FlowPoint =>
  ({
    id: 'p1',
    planName: 'Bar stock',
    isGate: true,
    lines: [],
    partCode: null,
    familyName: 'Bars',
    supplierName: null,
    customerName: null,
    supplierGroup: null,
    contract: null,
    subject: 'lot',
    moment: 'arrival',
    every: null,
    validFrom: null,
    validUntil: null,
    isInForce: true,
    frequency: { kind: 'everyArrival' },
    answeredAt: 'bench',
    whenConforming: 'decide',
    followPlanName: null,
    planState: 'released',
    opens: true,
    why: 'set for this family',
    ...change,
  }) as FlowPoint
const stop = (kind: Flow['stops'][number]['kind'], points: FlowPoint[] = []) => ({
  operationId: kind,
  code: kind.toUpperCase(),
  name: kind,
  kind,
  points,
  gaps: [] as Flow['stops'][number]['gaps'],
  leftOpen: null as Flow['stops'][number]['leftOpen'],
})
const show = (stops: Flow['stops'], canAttach = true) =>
  mount(FlowLine, { props: { flow: { family: null, stops, before: [] }, selectedId: null, canAttach } })
const drop = (planId: string) => {
  const data = new DataTransfer()
  data.setData('text/plan', planId)
  return { dataTransfer: data }
}

describe('the flow line of a part', () => {
  it('shows stops in order, and at each what is checked, whether it is a gate, and whether it opens', () => {
    const line = { characteristicId: 'c', name: 'Hardness', sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 } } as never
    const flow = show([stop('receiving', [point({ lines: [line] })]), stop('production'), stop('shipping')])
    expect(flow.findAll('.stop > b').map((name) => name.text())).toEqual(['receiving', 'production', 'shipping'])
    expect(flow.find('.tag').text().replaceAll(/\s+/g, ' ')).toBe('Bar stockgate Hardness: 5 pieces, Ac 0 family Bars opens: set for this family')
  })

  it('says when a point gives way to a narrower one, and when its plan would stop deliveries', () => {
    const flow = show([stop('receiving', [point({ opens: false, why: 'the narrower goes before it' }), point({ id: 'p2', planState: 'retired' })])])
    expect(flow.findAll('.tag')[0]?.text()).toContain('does not open: the narrower goes before it')
    expect(flow.findAll('.tag')[1]?.text()).toContain('its plan is retired: deliveries are refused')
  })

  it('says when at a step a point asks, how often, and for whom', () => {
    const often = point({ moment: 'start', frequency: { kind: 'oneIn', k: 3 }, familyName: null, customerName: 'Ridge' })
    const words = show([stop('production', [often])])
      .find('.tag')
      .text()
    for (const told of ['when the step is started (first piece)', 'one in 3 lots', 'every part, Ridge']) expect(words).toContain(told)
  })

  it('points out a stop where nothing is checked', () => {
    expect(show([stop('receiving'), stop('production'), stop('transfer')]).findAll('.tag.empty')).toHaveLength(3)
    expect(show([stop('receiving')], false).text()).not.toContain('Press A')
  })

  it('lets a stop be left open on purpose, with the reason in its place, and takes that back', async () => {
    const left = { ...stop('production'), leftOpen: { reason: 'measured at the next step', byName: 'Ilse', at: '2026-03-02T06:00:00.000Z' } }
    const flow = show([stop('receiving'), left])
    expect(flow.findAll('.tag.empty')).toHaveLength(1)
    expect(flow.find('[data-test=left-open]').text()).toContain('Not controlled: measured at the next step')
    await flow.find('[data-test=leave-open]').trigger('click')
    await flow.find('[data-test=left-open] button').trigger('click')
    expect(flow.emitted('leave')?.map(([moment, isLeft]) => [(moment as Flow['stops'][number]).name, isLeft])).toEqual([
      ['receiving', true],
      ['production', false],
    ])
  })

  it('says in which days a point is in force, and on which days nobody asks between two of them', () => {
    const ending = point({ validUntil: '2026-04-10' })
    const coming = point({ id: 'p2', validFrom: '2026-04-15', isInForce: false, opens: false, why: 'in force from 15 Apr 2026' })
    const gaps = [{ planCode: 'RP-01', from: '2026-04-11', until: '2026-04-14' }]
    const flow = show([{ ...stop('receiving', [ending, coming]), gaps }, stop('production', [point({ moment: 'everyPieces', every: 50 })])])
    const [first, second, third] = flow.findAll('.tag').map((tag) => tag.text())
    expect(first).toContain('in force until 10 Apr 2026')
    expect([second?.match(/in force from 15 Apr 2026/g)?.length, second?.includes('does not open')]).toEqual([1, true])
    expect(third).toContain('every 50 pieces while it runs')
    expect(flow.findAll('[data-test=gap]').map((gap) => gap.text())).toEqual(['△ nobody asks RP-01 from 11 Apr 2026 until 14 Apr 2026'])
  })

  it('attaches a plan that is dropped on any stop, and nothing else', async () => {
    const flow = show([stop('receiving'), stop('production'), stop('transfer')])
    const [receiving, production, transfer] = flow.findAll('.stop')
    await receiving?.trigger('drop', drop('plan-1'))
    await production?.trigger('drop', drop('plan-1'))
    await transfer?.trigger('drop', drop('plan-1'))
    await receiving?.trigger('drop', { dataTransfer: new DataTransfer() })
    expect(flow.emitted('attach')).toEqual([
      ['receiving', 'plan-1'],
      ['production', 'plan-1'],
      ['transfer', 'plan-1'],
    ])
  })

  it('begins an attachment from the ring, and opens the point that is chosen', async () => {
    const flow = show([stop('receiving', [point({})])])
    await flow.find('button.ring').trigger('click')
    await flow.find('.tag').trigger('click')
    expect(flow.emitted('attach')).toEqual([['receiving', null]])
    expect(flow.emitted('choose')?.[0]).toMatchObject([{ id: 'p1' }])
    expect(
      show([stop('receiving')], false)
        .find('button.ring')
        .exists(),
    ).toBe(false)
  })
})
