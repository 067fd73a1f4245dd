import { endpoints } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { codeIn, press, standing } from './stand'

const { define, run } = endpoints
const stand = standing()
const { api, sit, settle, partId } = stand

describe('the flow line of a part', () => {
  it('takes control points at a step and at shipping, with how often and by whom; a rehearsal says what they would open', async () => {
    const hand = await sit('ilse', `/attach/${await partId('PL-18')}`)
    await hand.sees('Nothing is checked here')
    const hang = async (stop: string, plan: string) => {
      await press(hand, `[data-stop] .ring[aria-label^="${stop}"]`)
      await hand.pick('[data-field=planId]', plan)
    }
    await hang('Forge', 'MP-10')
    await hand.select('[data-field=frequency]', 'one in k')
    await hand.fill('[data-field=k] input', '3')
    await hand.fill('[data-field=responsible]', 'Forge team')
    await hand.fill('[data-field=dueHours]', '2')
    await hand.sees('the next step cannot start, nor the order finish, before its decision')
    await press(hand, 'button[type=submit]')
    await hand.sees(/hangs at Forge/)
    expect(await hand.textOf('.tag:not(.empty)')).toMatch(/Flash and laps[\s\S]*gate[\s\S]*one in 3 lots/)
    await hang('Shipping', 'SP-10')
    await press(hand, 'button[type=submit]')
    await hand.sees(/hangs at Shipping/)

    await hand.fill('[data-test=rehearsal] [data-field=quantity]', '80')
    await hand.fill('[data-test=rehearsal] [data-field=lots]', '4')
    await press(hand, '[data-test=rehearsal] button[type=submit]')
    await hand.page.waitForSelector('[data-test=rehearsed]')
    const told = await hand.textOf('[data-test=rehearsed]')
    expect(told.match(/○ opens/g)).toHaveLength(2)
    expect(told.match(/of 3 since the last one/g)).toHaveLength(2)
    expect(told.match(/only for another family/g)).toHaveLength(4)
    expect(told).toMatch(/the first arrival[\s\S]*1 of 3 since the last one|the first arrival[\s\S]*2 of 3/)
    expect(told).toMatch(/Surface n 5, Ac 0, Re 1[\s\S]*gate holds all 80[\s\S]*Forge team/)
  })
})

describe('the machine side', () => {
  it('stops the operator at a gate with the way to the check, and lets go once it is decided; the pieces go to the store', async () => {
    const hand = await sit('hana', '/run/orders')
    await hand.sees('W-000001')
    await hand.press('n')
    await hand.pick('[data-field=partId]', 'RC-44')
    await hand.fill('[data-field=quantity]', '50')
    await press(hand, 'button[type=submit]')
    await hand.sees('Release it: its lot is given')
    await press(hand, '[data-test=act]')
    await hand.sees(/Its lot is L-\d{6}/)
    await hand.sees('Next: Forge, 50 pieces.')
    await press(hand, '[data-test=act]')
    await hand.sees('Forge is running')
    await hand.fill('[data-field=good] input', '45')
    await hand.fill('[data-field=scrapped] input', '7')
    await hand.sees('52 of 50')
    await hand.press('Enter')
    await hand.sees(/52 together; the order is for 50/)
    await hand.fill('[data-field=scrapped] input', '5')
    await hand.press('Enter')
    await hand.sees('45 good, 5 scrapped')
    // Forge asks for one in two and is no gate; heat treatment is one.
    await press(hand, '[data-test=act]')
    await hand.sees('Heat treat is running')
    await press(hand, '[data-test=act]')
    await hand.sees("You can't start Machine yet.")
    await hand.sees('45 on hold')
    await settle(codeIn(await hand.textOf('[data-test=next]')))
    // Nobody does anything at this page: it asks by itself while something waits.
    await hand.sees('Next: Machine, 45 pieces.')
    await hand.sees('decided: 45 release')
    await press(hand, '[data-test=act]')
    await hand.sees("You can't go on with Machine yet.")
    await settle(codeIn(await hand.textOf('[data-test=next]')))
    await hand.page.reload()
    for (const step of ['Machine', 'Anodise']) {
      await hand.sees(`${step} is running`)
      await press(hand, '[data-test=act]')
      await hand.sees('Next: ')
      await press(hand, '[data-test=act]')
    }
    await hand.sees('Assemble, prove is running')
    await press(hand, '[data-test=act]')
    await hand.sees("You can't finish this order yet.")
    await settle(codeIn(await hand.textOf('[data-test=next]')))
    await hand.page.reload()
    await hand.sees('Every step is confirmed: 45 pieces can go to the store.')
    await press(hand, '[data-test=act]')
    await hand.sees('This order is finished.')
    await hand.sees('45 released')
  })
})

describe('a check that the operator answers', () => {
  it('is hung so by an engineer, stands on the page of the order, and lets the step go on', async () => {
    const engineer = await api('ilse')
    const { rows } = await engineer.call(define.listCharacteristics, { query: { q: 'C-TURN' } })
    const lines = [
      { characteristicId: rows[0]?.id ?? '', sampling: { kind: 'fixedNumber', sampleSize: 3, accept: 0 }, isRequired: true, isDecisive: false },
    ] as const
    const plan = await engineer.call(define.createPlan, { body: { code: 'RP-98', name: 'First piece, own look', lines: [...lines] } })
    await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
    const hand = await sit('ilse', `/attach/${await partId('PL-18')}`)
    await press(hand, '[data-stop] .ring[aria-label^="Forge"]')
    await hand.pick('[data-field=planId]', 'RP-98')
    await hand.select('[data-field=moment]', 'when the step is started')
    await hand.reach('[data-field=whenConforming] input')
    await hand.press('ArrowDown')
    await hand.reach('[data-field=answeredAt] input')
    await hand.press('ArrowDown')
    await press(hand, 'button[type=submit]')
    await hand.sees(/hangs at Forge/)
    await hand.sees('answered at the step by its operator (self-inspection)')

    const operator = await sit('hana')
    const order = await (
      await api('hana')
    ).call(run.createOrder, {
      body: { partId: await partId('PL-18'), quantity: 12, orderNumber: '', customerId: null },
    })
    await operator.open(`/run/orders/${order.id}`)
    for (const words of ['Next: Forge, 12 pieces.', "You can't go on with Forge yet."]) {
      await press(operator, '[data-test=act]')
      await operator.sees(words)
    }
    await operator.reach('[data-test=spot-yes]')
    await operator.press('Space')
    await press(operator, '[data-test=answer]')
    await operator.sees('is answered: acceptable')
    await operator.sees('Forge is running.')
  })
})

describe('a dispatch', () => {
  it('takes released pieces only, waits for its check, leaves, and comes back in part, on hold', async () => {
    const hand = await sit('dario')
    const free = (await (await api('dario')).call(run.listPickable, { query: { q: 'RC-44', sort: 'since', dir: 'desc' } })).rows[0]
    await hand.open('/run/dispatches')
    await hand.sees('S-000001')
    await hand.press('n')
    await hand.pick('[data-field=customerId]', 'HMC')
    await hand.fill('[data-field=orderNumber]', '7001')
    await hand.pick('[data-field=lot]', free?.code ?? '')
    await hand.fill('[data-field=quantity] input', '1000000')
    await hand.press('Enter')
    await hand.sees(/1000000 were to be moved, only \d+ pieces are released there/)
    await hand.fill('[data-field=quantity] input', '10')
    await hand.press('Enter')
    await hand.sees('It may not leave yet.')
    expect(await hand.isOff('[data-test=send]')).toBe(true)
    await settle(codeIn(await hand.textOf('.gate')))
    await hand.page.reload()
    await hand.sees('picked, free to leave')
    await press(hand, '[data-test=send]')
    await hand.sees(/S-\d{6} has left/)
    await press(hand, '[data-test=picks] button')
    await hand.fill('[data-test=take-back] [data-field=quantity] input', '4')
    await hand.fill('[data-test=take-back] [data-field=reason] input', 'sleeve does not lock')
    await hand.press('Enter')
    await hand.sees('sleeve does not lock')
    expect(await hand.textOf('[data-test=checks]')).toContain('Returned goods')
    const trail = await (await api('jun')).call(endpoints.trace.getPassport, { params: { id: free?.lotId ?? '' } })
    expect(trail.events.map(({ title }) => title)).toEqual(
      expect.arrayContaining(['Picked for a dispatch, 10', 'Shipped, 10', 'Came back from the customer, 4']),
    )
    expect(trail.balances.some(({ standing, quantity }) => standing === 'onHold' && quantity === 4)).toBe(true)
  })
})
