import { endpoints, type ProductionOrder } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { objections } from './accessibility'
import { standing } from './stand'

const { attach, define, record, run } = endpoints
const plant = standing()

it('a nonconforming piece of a run: what was made since the last check that conformed is shown with where to look backwards, and held at once', async () => {
  const engineer = await plant.api('ilse')
  const customerId = (await engineer.call(define.partners.list, { query: { q: 'HMC' } })).rows[0]?.id ?? ''
  const partId = await plant.partId('PL-18')
  const { stops } = await engineer.call(attach.getFlow, { params: { id: partId }, query: {} })
  const operationId = stops.find(({ name }) => name === 'Forge')?.operationId
  await plant.hang('RP-97', 'Checked in the run', 'PL-18', { operationId, moment: 'everyPieces', every: 50, isGate: false, customerId })

  // What a failure holds is chosen where the plan is attached.
  const desk = await plant.sit('ilse', `/attach/${partId}`)
  await desk.sees('Checked in the run')
  await desk.page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button.tag')].find((tag) => tag.innerText.includes('Checked in the run'))?.focus(),
  )
  await desk.press('Enter')
  await desk.reach('[data-field=onFailure] input[value=hold]')
  await desk.press('ArrowRight')
  await desk.page.waitForSelector('[data-field=onFailure] input[value=holdMade]:checked')
  expect(await objections(desk)).toEqual([])
  await desk.take('button[type=submit]')
  await desk.sees(/Checked in the run hangs at Forge/)

  const operator = await plant.api('hana')
  const body = { partId, quantity: 400, orderNumber: '9770', customerId }
  let order: ProductionOrder = await operator.call(run.createOrder, { body })
  for (const act of [run.releaseOrder, run.startStep])
    order = await operator.call(act, { params: { id: order.id }, body: { version: order.version } })
  const make = async (good: number) => {
    const report = { kind: 'pieces', good, scrapped: 0, setAside: 0 } as const
    order = await operator.call(run.reportStep, { params: { id: order.id }, body: { version: order.version, report } })
    const check = order.steps.flatMap(({ checks }) => checks).find(({ state }) => state === 'toDo')
    return check?.id ?? ''
  }
  const inspector = await plant.api('rosa')
  const good = await make(50)
  const { lines, version } = await inspector.call(record.getInspection, { params: { id: good } })
  const answers = lines.flatMap(({ id: lineId, sampleSize }) =>
    Array.from({ length: sampleSize }, (_, i) => ({
      ...{ id: crypto.randomUUID(), lineId, piece: i + 1, value: 'O', typedAt: new Date().toISOString() },
      ...{ isConfirmedOutside: false, corrects: null },
    })),
  )
  const stored = await inspector.call(record.recordReadings, { params: { id: good }, body: { readings: answers } })
  await inspector.call(record.finishInspection, { params: { id: good }, body: { version: Math.max(version, stored.version) } })

  const id = await make(60)
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  await hand.sees('a failure holds what was made since the last check that conformed')
  expect(await hand.page.$('[data-test=made-since]')).toBeNull()
  await hand.press('X')
  await hand.sees('In doubt: made since the last check that conformed')
  await hand.sees(/I-\d+ conformed, at 50 made .* 60 went on since then, 110 are free on the line\./)
  await hand.sees('Look backwards: at piece 80 first. If it has not gone away by itself, 6 looks at most find where it began.')
  await hand.sees('Everything typed is stored.')
  expect(await objections(hand)).toEqual([])
  await hand.take('[data-test=hold-made]')
  await hand.sees('60 on hold for this check.')
  const balances = async () =>
    (await operator.call(run.getOrder, { params: { id: order.id } })).balances.map(({ standing: is, quantity }) => [is, quantity])
  expect((await balances()).toSorted()).toEqual([
    ['onHold', 60],
    ['released', 50],
  ])
  // A tablet held upright shows it, too.
  await hand.page.setViewport({ width: 800, height: 1280 })
  await hand.page.waitForSelector('[data-test=made-held]', { visible: true })
  // Finished as it is, nothing is held twice; what is made meanwhile is.
  await make(10)
  for (let piece = 2; piece <= 5; piece++) await hand.press('O')
  await hand.sees('Everything typed is stored.')
  await hand.chord('Control', 'Enter')
  await hand.page.waitForSelector('[data-test=to-decision], [data-test=reopen]')
  expect((await balances()).toSorted()).toEqual([
    ['onHold', 70],
    ['released', 50],
  ])
})
