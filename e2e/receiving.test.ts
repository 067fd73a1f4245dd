import { endpoints } from '@nemawashi/contract'
import { describe, expect, it } from 'vitest'
import { codeIn, press, standing } from './stand'

const { run } = endpoints
const { api, sit, settle } = standing()

describe('a load', () => {
  it('is looked at once: the form says so before it is booked in, and it holds goods that conform until it is decided', async () => {
    const hand = await sit('dario', '/run/new')
    await hand.pick('[data-field=supplierId]', 'TFS')
    await hand.fill('[data-field=orderNumber]', '9001')
    await hand.fill('[data-field=vehicle]', 'FH 777')
    await hand.pick('[data-line="0"] [data-field=partId]', 'SP-50')
    await hand.fill('[data-line="0"] [data-field=supplierLot]', 'Q-1')
    await hand.fill('[data-line="0"] [data-field=quantity]', '400')
    await hand.sees('The load: seal and packing')
    await hand.sees(/Twin springs, ends gate · Spring ends n 13, Ac 0/)
    await hand.sees('Take it to Inspection bay 2.')
    await press(hand, 'button[type=submit]')
    await hand.sees('All that it brought stays on hold')
    expect(await hand.textOf('[data-test=load]')).toMatch(/Seal[\s\S]*Packing/)
    const clerk = await api('dario')
    const id = /\/run\/([^/?]+)/.exec(hand.page.url())?.[1] ?? ''
    const delivery = await clerk.call(run.getDelivery, { params: { id } })
    for (const { code } of delivery.lots[0]?.inspections ?? []) await settle(code)
    await hand.page.reload()
    await hand.sees('1 of 3 inspections open')
    expect(await hand.textOf('[data-test=take-to]')).toMatch(/It stays there on hold: The load: seal and packing \(I-\d{6}\) is still to do/)
    await press(hand, '[data-test=put-away]')
    await hand.sees(/may not be put away: The load: seal and packing/)
    await settle(codeIn(await hand.textOf('[data-test=load]')))
    await hand.page.reload()
    await hand.sees('○ free')
    await press(hand, '[data-test=put-away]')
    await hand.sees('400 put away.')
  })
})

describe('acceptance', () => {
  it('that is stopped by the switching rules is seen on Today, and begins again on tightened inspection when a manager says why', async () => {
    const hand = await sit('anja', '/today')
    await hand.sees('Acceptance stopped')
    await press(hand, '.entry[href^="/contain/stops"]')
    await hand.sees('5 lots not accepted under tightened inspection')
    expect(await hand.textOf('[data-test=lots]')).toMatch(/normal[\s\S]*tightened[\s\S]*discontinued/)
    await press(hand, '[data-test=answer]')
    await hand.sees('fill this in')
    await hand.fill('[data-field=reason] textarea', 'The grinding wheel was changed; 50 ends looked at')
    await press(hand, '[data-test=answer]')
    await hand.sees('Acceptance begins again, on tightened inspection.')
    await hand.sees(/Let begin again .* by Anja Moreau: The grinding wheel was changed/)
    const clerk = await sit('dario', '/run/new')
    await clerk.pick('[data-field=supplierId]', 'TFS')
    await clerk.fill('[data-field=orderNumber]', '9002')
    await clerk.pick('[data-line="0"] [data-field=partId]', 'SP-50')
    await clerk.fill('[data-line="0"] [data-field=supplierLot]', 'Q-2')
    await clerk.fill('[data-line="0"] [data-field=quantity]', '400')
    await press(clerk, 'button[type=submit]')
    await clerk.sees('tightened inspection: acceptance was let begin again')
  })
})

describe('a delivery that was entered wrongly', () => {
  it('is put right with a reason, after it was said what that does; what was entered stays to be read', async () => {
    const clerk = await api('dario')
    const { rows } = await clerk.call(run.listDeliveries, { query: { q: '9002' } })
    const hand = await sit('dario', `/run/${rows[0]?.id ?? ''}`)
    await press(hand, '[data-test=correct]')
    await hand.sees('entered: 400')
    await hand.fill('[data-field=correctedValue]', '8')
    await press(hand, '[data-test=look]')
    await hand.sees(/takes a sample of 8 instead of 13: nobody has begun with it/)
    await hand.fill('[data-field=correctedReason]', 'a single tray')
    await press(hand, '[data-test=put-right]')
    await hand.sees('quantity 8 instead of 400')
    await hand.sees('392 never arrived')
    await hand.sees('8 on hold')
    // What nobody had begun is asked of what there is.
    await hand.sees('8 pieces')
  })
})
