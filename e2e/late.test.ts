import { expect, it } from 'vitest'
import { objections } from './accessibility'
import { standing } from './stand'

const plant = standing()

it('an inspection that was recorded late is found among all, and its lot says so', async () => {
  // A third of a second from its opening.
  await plant.hang('RP-98', 'Cartons at once', 'BX-02', { dueHours: 0.0001 })
  const delivery = await plant.arrive('Saltmere', 'BX-02', 'LATE-1')
  const [lot] = delivery.lots
  const own = lot?.inspections.find(({ planName }) => planName === 'Cartons at once')
  await new Promise((resolve) => setTimeout(resolve, 500))
  const hand = await plant.sit('rosa', `/record/${own?.id}`)
  await hand.sees('Late: it was due')
  await plant.answer(own?.code ?? '')
  await hand.open(`/record/${own?.id}`)
  await hand.sees('Finished 1 min late: it was due')
  await hand.open('/record?tab=all')
  await hand.page.waitForSelector('tbody tr')
  await hand.page.evaluate(() => [...document.querySelectorAll<HTMLElement>('a')].find((link) => link.innerText === 'Recorded late')?.focus())
  await hand.press('Enter')
  await hand.sees('· late')
  expect(await hand.page.$$eval('tbody [title$="min late"]', (found) => found.length)).toBeGreaterThan(0)
  expect(await hand.page.$$eval('tbody tr', (rows) => rows.every((row) => row.textContent.includes('late')))).toBe(true)
  expect(await objections(hand)).toEqual([])
  const auditor = await plant.sit('jun', `/trace/${lot?.id}`)
  await auditor.sees(/· 1 min late/)
})
