import { password } from '@nemawashi/demo'
import { describe, expect, it } from 'vitest'
import { effortOf, type Hand } from './hand'
import { codeIn, standing } from './stand'

const { sit, settle } = standing()

/** Opens what is known by its number, from anywhere, by the search of the frame. */
async function find(hand: Hand, code: string): Promise<void> {
  await hand.page.waitForSelector('.find input')
  await hand.press('/')
  await hand.page.waitForSelector('.find input:focus')
  await hand.type(code)
  await hand.page.waitForFunction((wanted) => document.querySelector('.find [role=option]')?.textContent?.includes(wanted) === true, {}, code)
  await hand.press('ArrowDown', 'Enter')
}
/** What all of them pressed and clicked together. */
function expectEffort(hands: readonly Hand[], most: Hand['effort']): void {
  const { keys, clicks } = effortOf(hands)
  expect(keys).toBeLessThanOrEqual(most.keys)
  expect(clicks).toBeLessThanOrEqual(most.clicks)
  expect(hands.flatMap(({ problems }) => problems)).toEqual([])
}

/** As newcomers go: from their first page, with every way there; each Enter that is pressed does something. */
describe('an order with a failing check', () => {
  it('is planned, stopped at the gate, decided in two parts, and finished with what is good', async () => {
    const operator = await sit('hana', '/today')
    await operator.turnTo('.rail', '/run')
    await operator.turnTo('nav.kinds', '/run/orders')
    await operator.press('n')
    await operator.pick('[data-field=partId]', 'RC-44')
    await operator.fill('[data-field=quantity]', '50')
    await operator.press('Enter')
    await operator.sees('Release it: its lot is given')
    for (const words of ['Next: Forge, 50 pieces.', 'Forge is running']) {
      await operator.take('[data-test=act]')
      await operator.sees(words)
    }
    for (const words of ['Next: Heat treat', 'Heat treat is running', "You can't start Machine yet."]) {
      await operator.take('[data-test=act]')
      await operator.sees(words)
    }
    const code = codeIn(await operator.textOf('[data-test=next]'))

    const inspector = await sit('rosa', '/today')
    await find(inspector, code)
    await inspector.page.waitForSelector('input.big:focus')
    for (const hardness of ['154', '153', '141', '155', '152']) {
      await inspector.type(hardness)
      await inspector.press('Enter')
      if (hardness === '141') {
        await inspector.sees('Is that what you measured?')
        await inspector.press('y')
      }
      if (hardness !== '152') await inspector.page.waitForSelector('input.big:focus')
    }
    await inspector.sees('Everything typed is stored')
    await inspector.chord('Control', 'Enter')
    await inspector.sees(`${code} is finished: not acceptable`)

    const manager = await sit('anja', '/today')
    await find(manager, code)
    await manager.take('[data-test=to-decision]')
    await manager.sees('Decide on what is held')
    await manager.select('[data-field=disposition0]', 'scrap')
    await manager.fill('[data-field=quantity0]', '10')
    await manager.fill('[data-field=reason0]', 'soft')
    await manager.take('button[aria-label="Split row 1"]')
    await manager.select('[data-field=disposition1]', 'use as is')
    await manager.fill('[data-field=quantity1]', '40')
    await manager.fill('[data-field=reason1]', 'other end of the furnace, tested')
    await manager.sees('adds up to what is held')
    await manager.press('Enter')
    await manager.seal(password)
    await manager.sees('Decided and sealed')

    // The page of the order asks by itself while something waits.
    await operator.sees('Next: Machine, 40 pieces.')
    await operator.take('[data-test=act]')
    await operator.sees("You can't go on with Machine yet.")
    await settle(codeIn(await operator.textOf('[data-test=next]')))
    for (const step of ['Machine', 'Anodise', 'Assemble, prove']) {
      await operator.sees(`${step} is running`)
      await operator.take('[data-test=act]')
      if (step === 'Assemble, prove') break
      await operator.sees('Next: ')
      await operator.take('[data-test=act]')
    }
    await operator.sees("You can't finish this order yet.")
    await settle(codeIn(await operator.textOf('[data-test=next]')))
    await operator.sees('Every step is confirmed: 40 pieces can go to the store.')
    await operator.take('[data-test=act]')
    await operator.sees('This order is finished.')
    await operator.sees('40 released')
    expectEffort([operator, inspector, manager], { keys: 140, clicks: 22 })
  })
})

describe('a truck with two lots, looked at as one load', () => {
  it('is booked in, recorded, decided lot by lot, and put away', async () => {
    const clerk = await sit('dario', '/today')
    await clerk.turnTo('.rail', '/run')
    await clerk.press('n')
    await clerk.pick('[data-field=supplierId]', 'TFS')
    await clerk.fill('[data-field=orderNumber]', '9100')
    await clerk.fill('[data-field=vehicle]', 'FH 700')
    await clerk.pick('[data-line="0"] [data-field=partId]', 'SP-50')
    await clerk.fill('[data-line="0"] [data-field=supplierLot]', 'Q-7')
    await clerk.fill('[data-line="0"] [data-field=quantity]', '400')
    await clerk.take('[data-line="0"] [data-test=another-lot]')
    await clerk.fill('[data-line="1"] [data-field=supplierLot]', 'Q-8')
    await clerk.fill('[data-line="1"] [data-field=quantity]', '200')
    await clerk.press('Enter')
    await clerk.sees('All that it brought stays on hold')
    // The list names a part once, however many lots of it came.
    expect(await clerk.textOf('tr.on a')).toBe('SP-50')
    const load = codeIn(await clerk.textOf('[data-test=load]'))

    const inspector = await sit('rosa', '/today')
    await find(inspector, load)
    await inspector.sees('The load of')
    for (const key of ['o', 'o'] as const) await inspector.press(key, 'Enter')
    await inspector.sees('2 lines judged, all acceptable')
    await inspector.chord('Control', 'Enter')
    await inspector.sees('is finished: acceptable')
    const manager = await sit('anja', '/today')
    await find(manager, load)
    await manager.take('[data-test=to-decision]')
    for (const isLast of [false, true]) {
      await manager.take('[data-test=load-lots] a')
      await manager.sees('held with its load')
      // Everything that it holds is free to go, as proposed.
      await manager.take('[data-test=decide]')
      await manager.seal(password)
      await manager.page.waitForSelector('.sheet .seal')
      await manager.page.waitForSelector('[data-test=load-lots]', { hidden: isLast, visible: !isLast })
    }
    // What is asked of the springs themselves is looked at by others.
    for (const code of [...new Set((await clerk.textOf('main')).match(/I-\d{6}/g))]) if (code !== load) await settle(code)
    await clerk.sees('○ free')
    await clerk.take('[data-test=put-away]')
    await clerk.sees('400 put away.')
    expectEffort([clerk, inspector, manager], { keys: 110, clicks: 15 })
  })
})
