import { endpoints, type LibraryFile } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'

const { define, people, record, run, attach } = endpoints
let installation: Installation
let chromium: Awaited<ReturnType<typeof launch>>
let engineer: Hand
let inspector: Hand
let api: ApiClient
const files = mkdtempSync(join(tmpdir(), 'nemawashi-files-'))

async function sit(signInName: string): Promise<Hand> {
  const hand = await Hand.at(chromium.browser, installation.base)
  await hand.comeIn(signInName, password)
  return hand
}
beforeAll(async () => {
  installation = await Installation.start(demoFolder())
  chromium = await launch()
  api = new ApiClient(installation.base)
  await api.call(people.signIn, { body: { signInName: 'ilse', password } })
  engineer = await sit('ilse')
  inspector = await sit('rosa')
})
afterAll(async () => {
  expect([...engineer.problems, ...inspector.problems]).toEqual([])
  await chromium.close()
  await installation.remove()
  rmSync(files, { recursive: true })
})
async function press(hand: Hand, selector: string): Promise<void> {
  await hand.reach(selector)
  await hand.press('Enter')
}
const idOf = async (list: unknown, q: string) =>
  ((await api.call(list as typeof define.families.list, { query: { q } })).rows as { id: string; code: string }[]).find(
    (row) => row.code === q || q.includes(' '),
  )?.id ?? ''
async function choose(hand: Hand, selector: string, file: string): Promise<void> {
  const input = (await hand.page.waitForSelector(selector)) as ElementHandle<HTMLInputElement>
  await input.uploadFile(file)
}

describe('the library as a file', () => {
  it('goes out with its pictures and models, and comes into an empty plant with them', async () => {
    await engineer.open('/define/import')
    await engineer.reach('[data-test=with-documents]')
    const content = await engineer.ask('[data-test=with-documents]', async (link) => (await fetch((link as HTMLAnchorElement).href)).text())
    const { characteristics, documents } = JSON.parse(content) as LibraryFile
    expect(documents.length).toBeGreaterThan(1)
    const file = join(files, 'library.json')
    writeFileSync(file, content)
    const empty = await Installation.start()
    try {
      const there = new ApiClient(empty.base)
      await there.call(people.createFirstAdministrator, {
        body: { code: empty.code, name: 'Ada Minister', initials: 'AM', signInName: 'ada', password },
      })
      const administrator = await Hand.at(chromium.browser, empty.base)
      await administrator.signIn('ada', password)
      await administrator.open('/define/import')
      await choose(administrator, '[data-field=file]', file)
      await administrator.sees(`${characteristics.length} new characteristics`)
      expect(await administrator.textOf('[data-test=missing]')).toMatch(/There is no (plan|answer list)/)
      await press(administrator, '[data-test=import]')
      await administrator.sees(`${characteristics.length} new drafts`)
      await there.call(people.signIn, { body: { signInName: 'ada', password } })
      const shown = await Promise.all(
        (await there.call(define.listCharacteristics, { query: { limit: 100 } })).rows.map(async ({ id }) => {
          return (await there.call(define.getCharacteristic, { params: { id } })).revisions[0]?.details.documentIds ?? []
        }),
      )
      expect(new Set(shown.flat()).size).toBe(documents.length)
      expect(administrator.problems).toEqual([])
    } finally {
      await empty.remove()
    }
  })
})

describe('finding in the library', () => {
  it('looks at names, instructions, answers and parts as one types, and narrows by kind and family', async () => {
    await engineer.open('/define/characteristics')
    for (const [words, found] of [
      ['streaks', 'C-LOOK'],
      ['third stroke', 'C-FORCE'],
      ['SD-30', 'C-HOLE'],
    ] as const) {
      await engineer.fill('input[aria-label="Filter Characteristics"]', words)
      await engineer.page.waitForFunction(
        (code) => [...document.querySelectorAll('tbody tr td:first-child')].some((cell) => cell.textContent?.trim() === code),
        {},
        found,
      )
    }
    await engineer.open('/define/characteristics')
    await engineer.page.waitForSelector('tbody tr')
    await engineer.reach('[data-test=narrow-kind]')
    await engineer.type('counted')
    await engineer.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1)
    await engineer.sees('C-MARK')
    expect(await engineer.page.evaluate(() => location.search)).toContain('kind=counted')
  })
})

describe('a characteristic tells how it is done', () => {
  it('with an instruction in steps, shown as the inspector reads it', async () => {
    await engineer.open('/define/characteristics/new')
    await engineer.page.waitForFunction(() => document.activeElement?.closest('[data-field=code]') !== null)
    await engineer.fill('[data-field=code]', 'G-1')
    await engineer.fill('[data-field=name]', 'Seal groove')
    await engineer.fill('[data-field=tolerance]', '3 ±0.1 mm')
    await engineer.reach('[data-field=instruction]')
    await engineer.type('Clean the groove')
    await engineer.press('Enter')
    await engineer.type('Measure at ')
    await engineer.chord('Control', 'b')
    await engineer.type('three')
    await engineer.press('ArrowRight', 'ArrowRight')
    await engineer.type(' places')
    await engineer.chord('Control', 'a')
    await engineer.ask('button[aria-label="numbered steps"]', (button) => (button as HTMLElement).click())
    await engineer.page.waitForFunction(() => document.querySelectorAll('.rich ol li').length === 2)
    expect(await engineer.ask('.rich strong', (word) => word.textContent)).toBe('three')
    await press(engineer, 'button[type=submit]')
    await engineer.sees('Saved G-1 as a draft')
    const made = await api.call(define.getCharacteristic, { params: { id: await idOf(define.listCharacteristics, 'G-1') } })
    expect(made.revisions[0]?.instruction).toBe('1. Clean the groove\n2. Measure at **three** places')
  })

  it('with a model that is turned in the page', async () => {
    await engineer.open(`/define/characteristics/${await idOf(define.listCharacteristics, 'C-PIND')}`)
    await press(engineer, '[data-document="pin 6 × 22.glb"]')
    await engineer.sees('6.0 × 22.0 × 6.0 mm. Drag to turn')
    await engineer.reach('.model canvas')
    const picture = async () => (await engineer.page.waitForSelector('.model canvas'))?.screenshot({ encoding: 'base64' })
    const before = await picture()
    expect(await picture()).toBe(before)
    for (let i = 0; i < 4; i++) await engineer.press('ArrowUp')
    expect(await picture()).not.toBe(before)
    await engineer.press('Escape')
    await engineer.page.waitForFunction(() => document.querySelector('.model') === null)
  })

  it('with a class from the list that the plant keeps', async () => {
    await engineer.open('/define/classes/new')
    await engineer.fill('[data-field=code]', 'safety')
    await engineer.fill('[data-field=name]', 'belongs to the safety proof')
    await press(engineer, 'button[type=submit]')
    await engineer.page.waitForFunction(() => [...document.querySelectorAll('tbody td')].some((cell) => cell.textContent?.trim() === 'safety'))
    await engineer.open(`/define/characteristics/${await idOf(define.listCharacteristics, 'G-1')}`)
    await engineer.select('[data-field=class]', 'safety')
    await press(engineer, 'button[type=submit]')
    await engineer.sees('Saved G-1 as a draft')
  })
})

describe('a plan', () => {
  it('gives a part limits of its own, and is released for a day to come', async () => {
    await engineer.open('/define/plans/new')
    await engineer.page.waitForFunction(() => document.activeElement?.closest('[data-field=code]') !== null)
    await engineer.fill('[data-field=code]', 'G-PLAN')
    await engineer.fill('[data-field=name]', 'Plates by part')
    await engineer.pick('[data-field=addLine]', 'C-THICK')
    await engineer.pick('[data-field=target]', 'SD-26')
    for (const [side, value] of [
      ['lower', '3.95'],
      ['nominal', '4'],
      ['upper', '4.05'],
    ])
      await engineer.fill(`input[aria-label="${side} of SD-26"]`, value as string)
    await press(engineer, 'button[type=submit]')
    await engineer.sees('Saved G-PLAN as a draft')
    await engineer.sees('1 part with own limits')
    const day = new Date(Date.now() + 9 * 86_400_000)
    const two = (value: number) => String(value).padStart(2, '0')
    await engineer.reach('[data-field=effectiveFrom]')
    await engineer.type(`${day.getDate()}.${day.getMonth() + 1}.${day.getFullYear()}`)
    await press(engineer, '[data-test=release]')
    await engineer.confirm()
    await engineer.sees(/G-PLAN released from \d/)
    await engineer.sees(/revision 1\s+scheduled/)
    const plan = await api.call(define.getPlan, { params: { id: await idOf(define.listPlans, 'G-PLAN') } })
    expect(plan.revisions[0]).toMatchObject({
      state: 'scheduled',
      effectiveFrom: `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`,
      lines: [{ targets: [{ partCode: 'SD-26', lower: '3.95', nominal: '4', upper: '4.05' }] }],
    })
  })

  it('comes in from a file once every line of it is understood', async () => {
    const plan = (characteristic: string) =>
      JSON.stringify({
        format: 'nemawashi-plans',
        version: 1,
        plans: [{ code: 'G-FILE', name: 'From a file', lines: [{ characteristic, sampling: { kind: 'everyPiece', accept: 0 } }] }],
      })
    const [wrong, right] = [join(files, 'wrong.json'), join(files, 'right.json')]
    writeFileSync(wrong, plan('C-NOWHERE'))
    writeFileSync(right, plan('C-HOLE'))
    await engineer.open('/define/plans')
    await engineer.menu('[data-test=plans-file]', '[data-test=import-plans]')
    await engineer.press('Enter')
    await choose(engineer, '[data-field=planFile]', wrong)
    await engineer.sees('plan G-FILE, line 1 There is no characteristic C-NOWHERE')
    expect(await engineer.isOff('[data-test=import-plans-now]')).toBe(true)
    await choose(engineer, '[data-field=planFile]', right)
    await engineer.page.waitForFunction(
      () => (document.querySelector('[data-test=import-plans-now]') as HTMLButtonElement | null)?.disabled === false,
    )
    await press(engineer, '[data-test=import-plans-now]')
    await engineer.sees('1 plan imported as drafts.')
    expect((await api.call(define.listPlans, { query: { q: 'G-FILE' } })).rows[0]).toMatchObject({ state: 'draft', lines: 1 })
    await press(engineer, '[data-test=notice-action]')
    await engineer.sees('The import is undone')
    expect((await api.call(define.listPlans, { query: { q: 'G-FILE' } })).total).toBe(0)
  })
})

describe('the workshop', () => {
  it('weighs a plan by variables for one limit and for two', async () => {
    await engineer.open('/define/sampling?limits=one')
    await engineer.select('[data-field=samplingKind]', 'variables')
    await engineer.page.waitForSelector('[data-field=bothLimits]')
    await engineer.sees(/A lot with 1 % nonconforming passes/)
    await engineer.reach('[data-field=bothLimits]')
    await engineer.press('Space')
    await engineer.sees(/A lot with 1 % nonconforming, half of them beyond each limit, passes/)
    expect(await engineer.page.evaluate(() => location.search)).toContain('limits=two')
  })
})

describe('the bench', () => {
  let inspectionId: string
  /** A delivery of a part of its own, with a coded line whose answer asks for more and one that need not be answered. */
  async function arrive(): Promise<void> {
    const make = async (fields: object) => {
      const made = await api.call(define.createCharacteristic, { body: fields as never })
      await api.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
      return made.id
    }
    const further = await idOf(define.listPlans, 'RP-81')
    const none = { nominal: null, lower: null, upper: null, unit: null, resolution: null, acceptableState: null, method: '', instruction: '' }
    const answers = [
      { code: 'F', words: 'fine', verdict: 'conforming', followUpPlanId: null },
      { code: 'D', words: 'damp', verdict: 'neither', followUpPlanId: further },
    ]
    const look = await make({ code: 'G-BOX', name: 'State of the box', kind: 'coded', class: 'minor', ...none, details: { answers } })
    const note = await make({ code: 'G-NOTE', name: 'Carrier', kind: 'noted', class: 'minor', ...none, details: { noteType: 'text' } })
    const paper = await make({ code: 'G-PAPER', name: 'Delivery note', kind: 'noted', class: 'minor', ...none, details: { noteType: 'document' } })
    const sampling = { kind: 'fixedNumber', sampleSize: 1, accept: 0 } as const
    const line = { sampling, isDecisive: false }
    const plan = await api.call(define.createPlan, {
      body: {
        code: 'G-BENCH',
        name: 'State on arrival',
        lines: [
          { characteristicId: look, ...line, isRequired: true, instruction: 'Look at **all six** sides' },
          { characteristicId: paper, ...line, isRequired: true },
          { characteristicId: note, ...line, isRequired: false },
        ],
      },
    })
    await api.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
    const receiving = await idOf(define.operations.list, 'RCV')
    const part = (await api.call(define.parts.create, {
      body: {
        code: 'G-PART',
        name: 'Box of rope',
        revision: 'A',
        unit: 'piece',
        tracking: 'lot',
        familyId: null,
        putAwayPlaceId: await idOf(define.places.list, 'RACK-B'),
        operationIds: [receiving],
      } as never,
    })) as { id: string }
    await api.call(attach.createControlPoint, {
      body: {
        operationId: receiving,
        planId: plan.id,
        partId: part.id,
        familyId: null,
        supplierId: null,
        holdPlaceId: await idOf(define.places.list, 'BAY-1'),
        isGate: true,
      },
    })
    const clerk = new ApiClient(installation.base)
    await clerk.call(people.signIn, { body: { signInName: 'dario', password } })
    const delivery = await clerk.call(run.receiveDelivery, {
      body: {
        supplierId: await idOf(define.partners.list, 'EBS'),
        orderNumber: '1',
        lines: [{ partId: part.id, supplierLot: 'G', quantity: 10, containers: [] }],
      },
    })
    inspectionId = delivery.lots[0]?.inspections[0]?.id ?? ''
  }

  it('tells beside an answer that it opens a further inspection, and opens it at the end', async () => {
    await arrive()
    await inspector.open(`/record/${inspectionId}`)
    await inspector.sees('opens a further inspection')
    expect(await inspector.ask('.rich strong', (word) => word.textContent)).toBe('all six')
    await inspector.page.waitForFunction(() => document.activeElement?.classList.contains('choice') === true)
    await inspector.press('D')
    await inspector.sees('Delivery note · piece 1 of 1')
    const paper = join(files, 'note 4711.pdf')
    writeFileSync(paper, '%PDF-1.4 of a delivery note')
    await choose(inspector, 'input[aria-label="Delivery note, piece 1: choose the file"]', paper)
    await inspector.sees('Carrier · piece 1 of 1')
    await inspector.sees('note 4711.pdf')
    await inspector.sees('Everything typed is stored.')
    await inspector.chord('Control', 'Enter')
    await inspector.sees('Say why they are skipped')
    await inspector.reach('[data-field=skip0]')
    // The field is where it can be seen, not only reached.
    expect(await inspector.ask('[data-field=skip0]', (field) => field.getBoundingClientRect().left)).toBeGreaterThan(0)
    await inspector.type('paper came without it')
    await inspector.press('Tab')
    await press(inspector, '[data-test=skip-finish]')
    await inspector.sees(/is finished: acceptable\. I-\d+ is opened for an answer\./)
    await inspector.sees(/An answer here asks for more: I-\d+ Printed matter/)
    const finished = await api.call(record.getInspection, { params: { id: inspectionId } })
    expect(finished.skips).toMatchObject([{ reason: 'paper came without it' }])
    expect(finished.followUps).toMatchObject([{ planName: 'Printed matter', state: 'toDo' }])
    await inspector.open(`/record/${finished.followUps[0]?.id ?? ''}`)
    await inspector.sees(`Asked for by an answer of ${finished.code} State on arrival.`)
  })
})
