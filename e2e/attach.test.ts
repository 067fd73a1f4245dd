import { dayInWords } from '@nemawashi/core'
import { endpoints } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import type { Hand } from './hand'
import { codeIn, press, standing } from './stand'

const { attach, define, record, run } = endpoints
const { api, sit, settle, partId, hang, arrive } = standing()
const hands: Record<string, Hand> = {}
const seat = async (signInName: string) => (hands[signInName] ??= await sit(signInName))
const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10)

/** Chooses a control point on the flow line by the words on its tag. */
async function choose(hand: Hand, words: string): Promise<void> {
  await hand.sees(words)
  await hand.page.evaluate(
    (text) => [...document.querySelectorAll<HTMLElement>('button.tag')].find((tag) => tag.innerText.includes(text))?.focus(),
    words,
  )
  await hand.press('Enter')
  await hand.sees(/Control point CP-\d+/)
}

/** Takes every control point of a plan off, whatever has become of it. */
async function takeOffAll(name: string): Promise<void> {
  const engineer = await api('ilse')
  const { rows } = await engineer.call(attach.listControlPoints, { query: { q: name, state: 'active' } })
  for (const { id, version } of rows) await engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
}

/** A step that is begun first and left alone: what its clock brings up is looked at last, so that the minute is not waited for. */
const leftAlone = { hand: null as Hand | null, takeOff: async (): Promise<unknown> => undefined }
it('a step that is to be asked about every minute is started, and the page left open', async () => {
  const engineer = await api('ilse')
  const customerId = (await engineer.call(define.partners.list, { query: { q: 'HMC' } })).rows[0]?.id ?? ''
  const { stops } = await engineer.call(attach.getFlow, { params: { id: await partId('PL-18') }, query: {} })
  const at = { operationId: stops.find(({ name }) => name === 'Forge')?.operationId, moment: 'everyMinutes', every: 1, customerId }
  leftAlone.takeOff = await hang('RP-96', 'By the minute', 'PL-18', at)
  const body = { partId: await partId('PL-18'), quantity: 30, orderNumber: '9760', customerId }
  const { id } = await (await api('hana')).call(run.createOrder, { body })
  const hand = await sit('hana', `/run/orders/${id}`)
  for (const words of ['Next: Forge, 30 pieces.', 'Forge is running.']) {
    await press(hand, '[data-test=act]')
    await hand.sees(words)
  }
  await hand.fill('[data-field=good] input', '7')
  leftAlone.hand = hand
})

describe('control points over time', () => {
  it('an engineer plays a year, sees what a change would have changed, and lets it count from a day on', async () => {
    await hang('RP-181', 'Cartons, all', 'BX-02', { isGate: false })
    for (const lot of ['Y-1', 'Y-2', 'Y-3', 'Y-4']) await arrive('Saltmere', 'BX-02', lot)
    const hand = await seat('ilse')
    await hand.open(`/attach/${await partId('BX-02')}`)
    await press(hand, '[data-test=play-year]')
    await hand.sees(/\d+ occasions in 365 days/)
    const [, said, inFact] = /(\d+) inspections,[\s\S]*In fact (\d+) inspections were opened/.exec(await hand.textOf('[data-test=year]')) ?? []
    // What hangs now hung there only for the last four.
    expect(Number(said)).toBeGreaterThan(Number(inFact))
    await hand.page.waitForSelector('[data-test=year] canvas')

    await choose(hand, 'Cartons, all')
    await hand.sees(/in the last 90 days: \d+ inspections,[\s\S]*the same as in force/)
    await hand.select('[data-field=frequency]', 'one in k')
    await hand.sees(/That is \d+ inspections fewer, \d+ pieces fewer/)
    // What was changed is not dropped by a slip.
    await press(hand, '[data-test=close-point]')
    await hand.sees('Drop the changes?')
    await hand.press('Escape')
    await hand.page.waitForSelector('[data-test=ask-yes]', { hidden: true })
    const day = inDays(9)
    await hand.reach('[data-field=changesFrom]')
    await hand.type('+9')
    await hand.sees('from that day another one asks in its place')
    await press(hand, 'button[type=submit]')
    await hand.sees(/Cartons, all hangs at Receiving from/)
    await hand.sees(`in force until ${dayInWords(inDays(8))}`)
    await hand.sees(`in force from ${dayInWords(day)}`)
    // Until then every one is looked at.
    expect((await arrive('Saltmere', 'BX-02', 'Y-5')).lots[0]?.inspections).toHaveLength(
      1 + Number((await arrive('Saltmere', 'BX-02', 'Y-6')).lots[0]?.inspections.length) - 1,
    )
    await choose(hand, `in force until ${dayInWords(inDays(8))}`)
    await press(hand, '[data-test=point-past] summary')
    await hand.sees(/followed by another[\s\S]*in force until: –/)
    await takeOffAll('Cartons, all')
    await hand.page.reload()
    await press(hand, '[data-test=points-before] summary')
    await hand.sees(/Cartons, all CP-\d+ at Receiving retired/)
  })
})

describe('the line of a part', () => {
  it('has the width: its list folds away and comes back; a plan is attached beside it, with the cursor in the form', async () => {
    const hand = await sit('ilse', `/attach/${await partId('RC-40')}`)
    await hand.page.waitForSelector('.tag')
    const cutOff = () => hand.ask('.flow', (flow) => flow.scrollWidth - flow.clientWidth)
    expect([await hand.page.$$eval('.flow > .stop', (stops) => stops.length), await cutOff()]).toEqual([7, 0])
    await press(hand, '[data-test=fold]')
    await hand.page.waitForSelector('tbody tr', { visible: true })
    await press(hand, '[data-test=fold]')
    await hand.page.waitForSelector('tbody tr', { hidden: true })
    await press(hand, '.flow > .stop:nth-child(4) button.ring')
    await hand.sees('Attach a plan · Anodise')
    await hand.page.waitForFunction(() => document.activeElement?.closest('[data-field=planId]') != null)
    const sides = await hand.page.evaluate(() =>
      ['.flow', 'form.point'].map((selector) => document.querySelector(selector)?.getBoundingClientRect().toJSON()),
    )
    expect(sides[0].right).toBeLessThanOrEqual(sides[1].left)
    expect(sides[1].top).toBeLessThan(300)
    await press(hand, '[data-test=close-point]')
    await hand.page.waitForSelector('form.point', { hidden: true })
  })
})

describe('a year of a large plant', () => {
  it('is played with its progress, can be stopped, and then shows nothing half-counted', async () => {
    const past = await (await api('ilse')).call(attach.getPastOccasions, { query: { partId: await partId('BX-02') } })
    // As much as a year of many plants brings: long enough to press a button meanwhile.
    const occasions = Array.from({ length: Math.ceil(60_000 / past.occasions.length) }, () => past.occasions).flat()
    const hand = await sit('ilse')
    await hand.page.setRequestInterception(true)
    hand.page.on('request', (request) => {
      if (!request.url().includes('/api/v1/past-occasions')) return void request.continue()
      void request.respond({ contentType: 'application/json', body: JSON.stringify({ ...past, occasions }) })
    })
    await hand.open(`/attach/${await partId('BX-02')}`)
    await press(hand, '[data-test=play-year]')
    await hand.page.waitForSelector('[data-test=year] [role=progressbar]')
    await press(hand, '[data-test=stop-year]')
    await hand.sees(/Stopped after .* occasions/)
    expect(await hand.textOf('[data-test=year]')).not.toContain('occasions in 365 days')
    expect(await hand.page.$('[data-test=year] canvas')).toBeNull()
    await hand.page.waitForSelector('[data-test=play-year]')
    await hand.page.close()
  })
})

describe('a step that runs', () => {
  it('asks every so many pieces, stops the operator at the gate, and lets go; a pause stands still', async () => {
    const engineer = await seat('ilse')
    await engineer.open(`/attach/${await partId('PL-18')}`)
    await press(engineer, '[data-stop] .ring[aria-label^="Forge"]')
    await engineer.pick('[data-field=planId]', 'MP-10')
    await engineer.select('[data-field=moment]', 'every so many pieces')
    await engineer.fill('[data-field=every] input', '20')
    await engineer.sees('no more pieces can be reported, nor the step confirmed, before its decision')
    await press(engineer, 'button[type=submit]')
    await engineer.sees('every 20 pieces while it runs')

    const hana = await api('hana')
    const made = await hana.call(run.createOrder, { body: { partId: await partId('PL-18'), quantity: 60, orderNumber: '', customerId: null } })
    const hand = await seat('hana')
    await hand.open(`/run/orders/${made.id}`)
    for (const words of ['Next: Forge, 60 pieces.', 'Forge is running.']) {
      await press(hand, '[data-test=act]')
      await hand.sees(words)
    }
    await hand.fill('[data-field=good] input', '15')
    await press(hand, '[data-test=report]')
    await hand.sees(/15\s+good/)
    await hand.sees(/45\s+still to be made/)
    await press(hand, '[data-test=pause]')
    await hand.confirm('shift change')
    await hand.sees('Forge is paused: shift change')
    await press(hand, '[data-test=resume]')
    await hand.sees('Forge is running.')
    await hand.fill('[data-field=good] input', '10')
    await press(hand, '[data-test=report]')
    await hand.sees("You can't go on with Forge yet.")
    await hand.sees('after 25 pieces')
    await settle(codeIn(await hand.textOf('[data-test=next]')))
    await hand.page.reload()
    await hand.sees('Forge is running.')
    await press(hand, '[data-test=set-up]')
    await hand.confirm('new die')
    await hand.page.waitForFunction(() => document.querySelector('.story') !== null)
    await press(hand, '.story summary')
    await hand.sees('set-up changed: new die')
    await hand.sees('15 good; 15 made')
    // What happened is played under the rules of today.
    await press(hand, '[data-test=asked-today]')
    await hand.page.waitForSelector('[data-test=rehearsed]')
    expect(await hand.textOf('[data-test=rehearsed]')).toMatch(/every 20 pieces while it runs[\s\S]*○ opens[\s\S]*comes up 3 times in 60/)
    expect(await hand.valueOf('[data-test=rehearsal] [data-field=quantity] input')).toBe('60')
  })
})

describe('how often', () => {
  const shown = async (id: string) => {
    const hand = await seat('dario')
    await hand.open(`/run/${id}`)
    await hand.page.waitForSelector('[data-test=passed-by], [data-test=checks]')
    return hand
  }
  const codeOf = (delivery: Awaited<ReturnType<typeof arrive>>, planName: string) =>
    delivery.lots[0]?.inspections.find((entry) => entry.planName === planName)?.code ?? ''

  it('one in three, and a certificate that is enough after two accepted in a row: the delivery says why it is not looked at', async () => {
    const takeOff = await hang('RP-82', 'One in three', 'BX-02', { isGate: false, frequency: { kind: 'oneIn', k: 3 } })
    const seen = []
    for (const lot of ['T-1', 'T-2', 'T-3', 'T-4']) seen.push(codeOf(await arrive('Saltmere', 'BX-02', lot), 'One in three') !== '')
    expect(seen).toEqual([true, false, false, true])
    const { id } = await arrive('Saltmere', 'BX-02', 'T-5')
    await (await shown(id)).sees('One in three, 1 of 3 since the last one')
    await takeOff()

    const off = await hang('RP-83', 'On certificate', 'BX-02', { frequency: { kind: 'certificateOnly', clearance: 2, fullAfterFailure: 1 } })
    for (const lot of ['S-1', 'S-2']) await settle(codeOf(await arrive('Saltmere', 'BX-02', lot), 'On certificate'))
    const passed = await arrive('Saltmere', 'BX-02', 'S-3')
    expect(codeOf(passed, 'On certificate')).toBe('')
    await (await shown(passed.id)).sees('On certificate, in good standing, 2 accepted in a row: the certificate is enough')
    await off()
    // Today nothing of the kind would be asked of it any more.
    const clerk = await seat('ilse')
    await clerk.open(`/run/${passed.id}`)
    await press(clerk, '[data-test=todays-rules]')
    await clerk.page.waitForSelector('[data-test=under-todays-rules]')
    expect(await clerk.textOf('[data-test=under-todays-rules]')).not.toContain('On certificate')
  })

  it('a random share, and skipping that is earned: what passes by is free, and says on what that rests', async () => {
    const takeOff = await hang('RP-84', 'A few, drawn', 'BX-02', { isGate: false, frequency: { kind: 'randomShare', percent: 50 } })
    const clerk = await seat('dario')
    await clerk.open('/run/new')
    await clerk.pick('[data-field=supplierId]', 'SMP')
    await clerk.pick('[data-field=partId]', 'BX-02')
    await clerk.fill('[data-field=quantity]', '20')
    await clerk.sees(/perhaps A few, drawn · by chance, 50 % of the arrivals: drawn when it comes/)
    let passed = ''
    for (let i = 1; i <= 40 && passed === ''; i++) {
      const delivery = await arrive('Saltmere', 'BX-02', `R-${i}`)
      if (codeOf(delivery, 'A few, drawn') === '') passed = delivery.id
    }
    await (await shown(passed)).sees('A few, drawn, not drawn, 50 % of the arrivals are')
    await takeOff()

    const off = await hang('RP-85', 'Skipping', 'BX-02', { frequency: { kind: 'earnedSkipping', clearance: 1, k: 2 } })
    await settle(codeOf(await arrive('Saltmere', 'BX-02', 'E-1'), 'Skipping'))
    const skipped = await arrive('Saltmere', 'BX-02', 'E-2')
    await (await shown(skipped.id)).sees('Skipping, skipping earned by 1 in a row; 1 of 2 since the last one')
    await off()
  })

  it('an engineer sees the line as that of the family, hangs a plan for all of it, and sets how often it asks', async () => {
    const hand = await seat('ilse')
    await hand.open(`/attach/${await partId('DS-12')}`)
    await hand.select('[data-field=lens]', 'the family')
    await hand.sees(/Its parts: DS-10.*, DS-12/)
    await press(hand, '[data-stop] .ring[aria-label^="Anodise"]')
    await hand.pick('[data-field=planId]', 'MP-30')
    const often = async (kind: string, fields: Record<string, string>) => {
      await hand.select('[data-field=frequency]', kind)
      for (const [field, value] of Object.entries(fields)) {
        await hand.reach(`[data-field=${field}] input`)
        await hand.chord('Control', 'a')
        await hand.type(value)
      }
      await press(hand, '.page button[type=submit]')
      await hand.sees(/CP-\d+: .* hangs at Anodise/)
    }
    const name = (await (await api('ilse')).call(define.listPlans, { query: { q: 'MP-30' } })).rows[0]?.name ?? ''
    await often('a random share', { percent: '30', fullAfterFailure: '2' })
    await hand.sees(/family Descenders[\s\S]*opens: set for this family/)
    await hand.sees('30 % of the lots, drawn')
    await choose(hand, name)
    await often('certificate only', { clearance: '4' })
    await hand.sees('certificate only after 4 accepted in a row')
    await choose(hand, name)
    await often('earned skipping', { clearance: '5', k: '2' })
    await hand.sees('one in 2 after 5 accepted in a row')
    await hand.open(`/attach/${await partId('DS-10')}`)
    await hand.sees(/one in 2 after 5 accepted in a row[\s\S]*family Descenders/)
    await takeOffAll(name)
  })

  it('two lots of five that are not accepted switch to tightened inspection; the bench says so, and why', async () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: 'withoutReduced' } as const
    const takeOff = await hang('RP-86', 'By the scheme', 'BX-02', {}, scheme)
    for (const lot of ['N-1', 'N-2']) await settle(codeOf(await arrive('Saltmere', 'BX-02', lot, 500), 'By the scheme'), false)
    const { lots } = await arrive('Saltmere', 'BX-02', 'N-3', 500)
    const check = lots[0]?.inspections.find(({ planName }) => planName === 'By the scheme')
    const hand = await seat('rosa')
    await hand.open(`/record/${check?.id ?? ''}`)
    await hand.sees('tightened inspection: 2 of 2 consecutive lots not accepted')
    await takeOff()
  })
})

it('the step that was left alone has been asked about by the clock: its page says so by itself, and what was typed stays', async () => {
  const hand = leftAlone.hand as Hand
  const good = () => hand.page.evaluate(() => document.querySelector<HTMLInputElement>('[data-field=good] input')?.value ?? 'gone')
  await hand.sees("You can't go on with Forge yet.", 120_000)
  await hand.sees('after 1 minute')
  // More than a minute may have gone by: every check that came up since is answered.
  await leftAlone.takeOff()
  const { rows } = await (await api('rosa')).call(record.listInspections, { query: { q: 'By the minute', state: 'open' } })
  for (const { code } of rows) await settle(code)
  await hand.sees('Forge is running.')
  expect(await good()).toBe('7')
})
