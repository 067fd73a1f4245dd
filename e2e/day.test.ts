import { endpoints } from '@nemawashi/contract'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Hand } from './hand'
import { press, standing } from './stand'

const { attach, define, record, run } = endpoints
const { api, sit, partId } = standing()
const hands: Record<string, Hand> = {}
const seat = async (signInName: string) => (hands[signInName] ??= await sit(signInName))
const idOf = async (list: typeof define.families.list, q: string) =>
  ((await (await api('ilse')).call(list, { query: { q } })).rows[0] as { id: string }).id
const totalOf = async (hand: Hand) => Number(await hand.textOf('.tools .count'))

/** Side plates that come now: what the day has brought differs with its hour. */
async function plates(supplierLot: string): Promise<{ id: string; code: string }> {
  const supplierId = await idOf(define.partners.list as never, 'Elder Bank')
  const lines = [{ partId: await partId('SD-26'), supplierLot, quantity: 60, containers: [] }]
  const { lots } = await (await api('dario')).call(run.receiveDelivery, { body: { supplierId, orderNumber: supplierLot, lines } })
  const { id = '', code = '' } = lots[0]?.inspections.find(({ planName }) => planName === 'Side plates') ?? {}
  return { id, code }
}
let [one, two] = [
  { id: '', code: '' },
  { id: '', code: '' },
]
beforeAll(async () => {
  one = await plates('DAY-1')
  two = await plates('DAY-2')
})

describe('two inspectors', () => {
  it('do not take the same inspection: the second is told who has it, and takes it over only when that is meant', async () => {
    const rosa = await seat('rosa')
    await rosa.open('/record/day')
    await press(rosa, `[data-group=free] [data-code="${one.code}"] [data-test=take]`)
    await rosa.sees(`${one.code} is yours.`)
    await rosa.page.waitForSelector(`[data-group=begun] [data-code="${one.code}"]`)
    const tomek = await seat('tomek')
    await tomek.open(`/record/${one.id}`)
    await tomek.sees(/Rosa Lindqvist has it/)
    await press(tomek, '[data-test=holder] [data-test=take]')
    await tomek.sees(`Take ${one.code} over?`)
    await tomek.confirm()
    await tomek.sees('You have it')
    await rosa.open('/record/day')
    await rosa.sees('Nobody has these yet')
    await rosa.page.waitForFunction((code) => document.querySelector(`[data-code="${code}"]`) === null, {}, one.code)
    await press(tomek, '[data-test=put-back]')
    await tomek.sees('Nobody has it yet')
  })
})

describe('an engineer', () => {
  it('plans an inspection by key, and another with the mouse, and the day’s minutes open exactly what they count', async () => {
    const hand = await seat('ilse')
    await hand.open('/record/planning')
    await hand.page.waitForSelector(`[data-card="${one.code}"]`)
    await hand.page.focus(`[data-card="${one.code}"]`)
    await hand.press('Space', 'ArrowDown', 'ArrowRight', 'Space')
    await hand.sees(new RegExp(`${one.code} is planned for Ilse Kovar on \\d`))
    const cell = await hand.page.waitForSelector(`[data-cell^="Ilse Kovar"]:has([data-card="${one.code}"])`)
    const day = (await cell?.evaluate((node) => (node as HTMLElement).dataset['cell']?.slice(-10))) ?? ''
    await hand.page.evaluate(
      (from, to) => {
        const dataTransfer = new DataTransfer()
        const [source, target] = [document.querySelector(from), document.querySelector(to)]
        source?.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer }))
        target?.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer }))
        target?.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer }))
      },
      `[data-card="${two.code}"]`,
      `[data-cell="Ilse Kovar ${day}"]`,
    )
    await hand.sees(`${two.code} is planned for Ilse Kovar`)
    const sum = `[data-cell="Ilse Kovar ${day}"] .sum`
    await hand.page.waitForFunction((selector) => document.querySelector(selector)?.textContent?.includes(': 2 inspections'), {}, sum)
    await press(hand, sum)
    await hand.sees('planned for')
    await hand.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 2)
    expect(await totalOf(hand)).toBe(2)
  })

  it('narrows the queue down by links, each of which leaves as many as it says', async () => {
    const hand = await seat('ilse')
    await hand.open('/record?tab=open')
    await hand.page.waitForSelector('[data-facet^="assignedTo Ilse"]')
    const facet = '[data-facet^="assignedTo Ilse"]'
    const said = Number((await hand.textOf(facet)).split('\n').at(-1))
    await press(hand, facet)
    await hand.page.waitForFunction((count) => document.querySelectorAll('tbody tr').length === count, {}, said)
    expect([said, await totalOf(hand)]).toEqual([2, 2])
    // Back is where one came from, and a reload stays there.
    await hand.page.reload()
    await hand.page.waitForFunction((count) => document.querySelectorAll('tbody tr').length === count, {}, said)
    await hand.page.goBack()
    await hand.page.waitForFunction((count) => document.querySelectorAll('tbody tr').length > count, {}, said)
  })

  it('lets a control point be adaptable; a line that two ask is asked once, and its sample is changed with a reason', async () => {
    const engineer = await api('ilse')
    const plan = await engineer.call(define.getPlan, { params: { id: await idOf(define.listPlans as never, 'RP-61') } })
    const characteristicId = plan.revisions.find(({ state }) => state === 'released')?.lines[0]?.characteristicId ?? ''
    const sampling = { kind: 'fixedNumber' as const, sampleSize: 12, accept: 0 }
    const made = await engineer.call(define.createPlan, {
      body: { code: 'RP-77', name: 'Thickness once more', lines: [{ characteristicId, sampling, isRequired: true, isDecisive: false }] },
    })
    await engineer.call(define.releasePlan, { params: { id: made.id }, body: { version: made.version } })
    const { rows } = await engineer.call(attach.listControlPoints, { query: { q: 'RP-61', state: 'active' } })
    const operationId = rows[0]?.operationId ?? ''
    const bought = await partId('SD-26')
    const hand = await seat('ilse')
    await hand.open(`/attach/${bought}`)
    await hand.page.waitForSelector('button.tag')
    await hand.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button.tag')].find((tag) => !tag.innerText.includes('Thickness once more'))?.focus(),
    )
    await hand.press('Enter')
    await hand.sees(/Control point CP-\d+/)
    await hand.reach('[data-field=need]')
    await hand.press('ArrowRight')
    await press(hand, 'button[type=submit]')
    await hand.sees(/Side plates hangs at/)
    await engineer.call(attach.createControlPoint, {
      body: {
        operationId,
        planId: made.id,
        partId: bought,
        familyId: null,
        supplierId: null,
        holdPlaceId: null,
        isGate: false,
      },
    })
    const supplierId = await idOf(define.partners.list as never, 'Elder Bank')
    const lines = [{ partId: bought, supplierLot: 'ONCE', quantity: 200, containers: [] }]
    const { lots } = await (await api('dario')).call(run.receiveDelivery, { body: { supplierId, orderNumber: 'ONCE', lines } })
    // Nothing is left to ask for the other: it opens none.
    expect(lots[0]?.inspections.filter(({ planName }) => planName === 'Thickness once more')).toEqual([])
    const id = lots[0]?.inspections.find(({ planName }) => planName === 'Side plates')?.id ?? ''
    await hand.open(`/record/${id}`)
    await hand.sees(/Asked once, also for Thickness once more \(n 12\)/)
    await press(hand, '[data-test=adapt]')
    await hand.fill('[data-field=adapt-n]', '3')
    await hand.sees(/one time in ten \(consumer's risk\); with n 3, Ac 0 one with \d+ nonconforming of 200/)
    await hand.fill('[data-field=adapt-reason]', 'known heat')
    await press(hand, '[data-test=adapt-save]')
    await hand.sees(/Sample changed from n \d+, Ac \d+ by Ilse Kovar: known heat/)
    const { lines: asked } = await (await api('rosa')).call(record.getInspection, { params: { id } })
    expect(asked.find((line) => line.alsoFor.length > 0)).toMatchObject({ sampleSize: 3, accept: 0 })
  })

  it('leaves a stop open on purpose, and says why', async () => {
    const hand = await seat('ilse')
    await hand.open(`/attach/${await partId('SD-26')}`)
    await press(hand, '[data-test=leave-open]')
    await hand.confirm('looked at when it is assembled')
    await hand.sees(/Not controlled: looked at when it is assembled/)
    await hand.page.reload()
    await hand.sees(/Not controlled: looked at when it is assembled/)
    await press(hand, '[data-test=left-open] button')
    await hand.sees('is no longer noted as not controlled')
  })
})
