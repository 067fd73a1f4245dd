import { endpoints, type Role } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it, onTestFailed } from 'vitest'
import { launch } from './browser'
import { effortOf, Hand } from './hand'
import { Installation } from './installation'

const password = 'correct-horse-staple'
const given = 'as it was handed over'
let installation: Installation
let chromium: Awaited<ReturnType<typeof launch>>
let hand: Hand
const hands: Hand[] = []
const people: Record<string, Hand> = {}

beforeAll(async () => {
  installation = await Installation.start()
  chromium = await launch()
})

/** Each step stands on the one before: after one has failed, the others are skipped instead of waiting for what cannot come. */
let brokenAt: string | null = null
beforeEach(({ task, skip }) => {
  if (brokenAt !== null) skip(`"${brokenAt}" failed before.`)
  onTestFailed(() => {
    brokenAt ??= task.name
  })
})

afterAll(async () => {
  await chromium.close()
  await installation.remove()
})

/** Somebody with a role, at a browser of their own, signed in with the keyboard. */
async function be(role: Role): Promise<Hand> {
  const known = people[role]
  if (known) return known
  const person = await Hand.at(chromium.browser, installation.base)
  hands.push(person)
  await person.enter(role, given)
  // What an administrator chose is good for choosing another one.
  await person.sees('Choose a password of your own')
  await person.fill('[data-field=current]', given)
  await person.fill('[data-field=next]', password)
  await person.press('Enter')
  await person.page.waitForSelector('.find input')
  Object.assign(person.effort, { keys: 0, clicks: 0 })
  people[role] = person
  return person
}

/** From an empty installation to a sealed report, each step with the keyboard alone. */
describe('the slice, from a first administrator to the report', () => {
  it('1 a new installation asks for its first administrator, who adds people with roles', async () => {
    hand = await Hand.at(chromium.browser, installation.base)
    hands.push(hand)
    await hand.open('/')
    await hand.sees('Nobody is here yet')
    await hand.fill('input[name=setup-code]', installation.code)
    await hand.fill('input[name=name]', 'Ada Minister')
    await hand.fill('input[name=initials]', 'AM')
    await hand.fill('input[name=username]', 'ada')
    await hand.besides(async () => {
      await hand.fill('input[name=password]', 'short')
      await hand.press('Enter')
      await hand.page.waitForSelector('.v-input--error input[name=password]')
    })
    await hand.fill('input[name=password]', password)
    await hand.press('Enter')
    await hand.page.waitForSelector('.rail')
    await hand.menu('.me', '[role=menuitem][href="/people"]')
    await hand.press('Enter')
    await hand.take('[data-test=new]')
    await hand.fill('[data-field=name]', 'Quentin Engineer')
    await hand.fill('[data-field=initials]', 'QE')
    await hand.fill('[data-field=signInName]', 'qualityEngineer')
    await hand.reach('input[type=checkbox][value=qualityEngineer], input[aria-label="quality engineer"]')
    await hand.press('Space')
    await hand.fill('[data-field=password]', given)
    await hand.press('Enter')
    await hand.sees('Saved Quentin Engineer')
    const administrator = new ApiClient(installation.base)
    await administrator.call(endpoints.people.signIn, { body: { signInName: 'ada', password } })
    for (const role of ['inspector', 'receivingClerk', 'qualityManager', 'auditor'] as const) {
      await administrator.call(endpoints.people.createPerson, {
        body: { name: `The ${role}`, initials: role.slice(0, 2).toUpperCase(), signInName: role, roles: [role], password: given },
      })
    }
  })

  it('2 master data is made: places, supplier, family, operations, a part with its routing', async () => {
    hand = await be('qualityEngineer')
    await hand.turnTo('.rail', '/define')
    let shown = ''
    const make = async (kind: string, code: string, name: string, rest: () => Promise<void> = async () => undefined) => {
      if (kind !== shown) await hand.turnTo('nav.kinds', `/define/${kind}`)
      shown = kind
      await hand.take('[data-test=new]')
      await hand.getsCursor('[data-field=code] input')
      await hand.fill('[data-field=code]', code)
      await hand.fill('[data-field=name]', name)
      await rest()
      await hand.press('Enter')
      // The word that it is saved goes by itself; the address stays.
      await hand.page.waitForFunction(() => !location.pathname.endsWith('/new'))
    }
    const purpose = (words: string) => () => hand.select('[data-field=purpose]', words)
    // The first place is where things arrive and the first operation takes them in, unless somebody says otherwise.
    await make('places', 'DOCK', 'Dock')
    await make('places', 'BAY', 'Inspection bay', purpose('inspection'))
    await make('places', 'STORE', 'Bar store')
    await make('places', 'CAGE', 'Quarantine cage', purpose('quarantine'))
    await make('places', 'OUT', 'Back to supplier', purpose('outside'))
    await make('partners', 'MVM', 'Marrow Vale Metals')
    await make('families', 'BARS', 'Bar stock')
    await make('operations', 'RCV', 'Receiving')
    await make('operations', 'FRG', 'Forge')
    await make('parts', 'BS-16', 'Bar stock 16', async () => {
      await hand.fill('[data-field=revision]', 'A')
      await hand.pick('[data-field=familyId]', 'BARS')
      await hand.pick('[data-field=putAwayPlaceId]', 'STORE')
      await hand.select('[data-field=addOperation]', 'Receiving')
      await hand.select('[data-field=addOperation]', 'Forge')
      // Enter would open what else can be added.
      await hand.reach('button[type=submit]')
    })
  })

  it('3 a measured and a judged characteristic are defined, with the strip following what is typed', async () => {
    await hand.turnTo('nav.kinds', '/define/characteristics')
    await hand.take('[data-test=new]')
    await hand.fill('[data-field=code]', 'C-GAP')
    await hand.fill('[data-field=name]', 'Gate gap')
    await hand.fill('[data-field=tolerance]', '0.3 ± 0.05')
    await hand.sees('Conforms from 0.25 to 0.35 mm')
    expect(await hand.valueOf('[data-field=upper] input')).toBe('0.35')
    await hand.besides(async () => {
      await hand.fill('[data-field=lower]', '0.4')
      await hand.sees('lower limit 0.4 is above the upper limit 0.35')
      await hand.fill('[data-field=lower]', '0.25')
      await hand.sees('Conforms from 0.25 to 0.35 mm')
    })
    await hand.press('Enter')
    await hand.sees('Saved C-GAP as a draft')
    await hand.take('[data-test=release]')
    await hand.confirm()
    await hand.sees('C-GAP released')
    await hand.take('[data-test=new]')
    await hand.fill('[data-field=code]', 'C-BURR')
    await hand.fill('[data-field=name]', 'Burrs')
    await hand.reach('input[type=radio][value=measured]')
    await hand.press('ArrowRight')
    await hand.fill('[data-field=acceptableState]', 'No burr to be felt')
    await hand.take('button[type=submit]')
    await hand.sees('Saved C-BURR as a draft')
    await hand.take('[data-test=release]')
    await hand.confirm()
    await hand.sees('C-BURR released')
  })

  it('4 and 5 a plan gets its lines, sampling with the risk beside it, an order, and is released', async () => {
    await hand.turnTo('nav.kinds', '/define/plans')
    await hand.take('[data-test=new]')
    await hand.fill('[data-field=code]', 'RP-1')
    await hand.fill('[data-field=name]', 'Bar receiving')
    await hand.pick('[data-field=addLine]', 'C-BURR')
    await hand.sees('Burrs · sampling')
    await hand.select('[data-field=samplingKind]', 'a fixed number')
    await hand.fill('[data-field=sampleSize]', '3')
    await hand.pick('[data-field=addLine]', 'C-GAP')
    await hand.sees('Gate gap · sampling')
    await hand.select('[data-field=level]', 'S-1')
    await hand.select('[data-field=aql]', '6.5')
    await hand.sees('lot 500, level S-1 → letter B, arrow to A; AQL 6.5 % → 2 pieces, Ac 0')
    await hand.sees(/A lot with 6\.5 % nonconforming passes 87 times in 100\. A lot with 68 % still passes 10 times in 100\./)
    await hand.page.waitForSelector('canvas')
    await hand.besides(async () => {
      await hand.select('[data-field=samplingKind]', 'every piece')
      await hand.sees('Only a lot without a single nonconforming piece')
      await hand.select('[data-field=samplingKind]', 'a percentage')
      await hand.sees('10 % of 500 is 50: 50 pieces')
      await hand.select('[data-field=samplingKind]', 'MIL-STD-105E')
      await hand.select('[data-field=level]', 'S-1')
      await hand.select('[data-field=aql]', '6.5')
    })
    const order = () => hand.page.$$eval('.line b', (names) => names.map((name) => name.textContent))
    expect(await order()).toEqual(['Burrs', 'Gate gap'])
    await hand.reach('[data-line="1"]')
    await hand.chord('Alt', 'ArrowUp')
    expect(await order()).toEqual(['Gate gap', 'Burrs'])
    await hand.take('button[type=submit]')
    await hand.sees('Saved RP-1 as a draft')
    await hand.take('[data-test=release]')
    await hand.confirm()
    await hand.sees('RP-1 released')
    await hand.sees(/revision 1\s+released/)
  })

  it('6 the plan is hung on the receiving stop with A, as a gate', async () => {
    await hand.turnTo('.rail', '/attach')
    await hand.sees('BS-16')
    await hand.press('j')
    await hand.sees('Nothing is checked here')
    await hand.press('a')
    await hand.pick('[data-field=planId]', 'RP-1')
    await hand.pick('[data-field=holdPlaceId]', 'BAY')
    await hand.press('Enter')
    await hand.sees(/hangs at Receiving/)
    expect(await hand.textOf('.tag')).toMatch(/Bar receiving[\s\S]*gate[\s\S]*opens: set for this part/)
  })

  it('7 the clerk books a delivery in and is told where to take it; put-away is refused with the reason', async () => {
    hand = await be('receivingClerk')
    await hand.turnTo('.rail', '/run')
    await hand.sees('Nothing has arrived yet')
    await hand.press('n')
    await hand.pick('[data-field=supplierId]', 'MVM')
    await hand.fill('[data-field=orderNumber]', '4711')
    await hand.pick('[data-field=partId]', 'BS-16')
    await hand.fill('[data-field=supplierLot]', 'MV-88213')
    await hand.fill('[data-field=quantity]', '240')
    await hand.besides(async () => {
      await hand.fill('[data-field=containers]', '120 119')
      await hand.press('Enter')
      await hand.sees('the containers hold 239, the delivery note says 240')
    })
    await hand.fill('[data-field=containers]', '120 120')
    await hand.press('Enter')
    await hand.sees('Take K-000001, K-000002 to Inspection bay.')
    await hand.sees('240 on hold')
    await hand.sees(/Gate gap\s+2\s+0/)
    await hand.besides(async () => {
      await hand.take('[data-test=put-away]')
      await hand.sees(/may not be put away: Bar receiving \(I-000001\) is still to do/)
    })
  })

  it('8 the inspector records with value + Enter and O / X; out of limits is asked about; reload and restart lose nothing', async () => {
    hand = await be('inspector')
    await hand.turnTo('.rail', '/record')
    await hand.sees('I-000001')
    await hand.press('j')
    await hand.sees('Gate gap · piece 1 of 2')
    await hand.page.waitForSelector('input.big:focus')
    await hand.type('0a,3x4mm')
    expect(await hand.valueOf('input.big')).toBe('0,34')
    expect(await hand.textOf('[data-test=live-mark]')).toBe('inside the limits')
    await hand.press('Enter')
    await hand.sees('Gate gap · piece 2 of 2')
    await hand.type('0.52')
    await hand.press('Enter')
    await hand.sees('Is that what you measured?')
    await hand.sees('Limits 0.25 to 0.35 mm')
    await hand.press('n')
    await hand.page.waitForSelector('input.big:focus')
    await hand.sees('Everything typed is stored')
    await hand.page.reload()
    await hand.sees('Gate gap · piece 2 of 2')
    expect(await hand.valueOf('input.big')).toBe('0.52')
    expect(await installation.end()).toBe(0)
    await installation.begin()
    await hand.page.waitForSelector('input.big:focus')
    await hand.press('Enter')
    await hand.press('y')
    await hand.sees('Burrs · piece 1 of 3')
    await hand.press('o', 'o')
    await hand.sees('Burrs · piece 3 of 3')
    await hand.besides(async () => {
      await hand.chord('Control', 'Enter')
      await hand.sees(/cannot be judged: 1 reading still blank on Burrs/)
    })
    await hand.press('o')
    await hand.sees('Everything typed is stored')
    expect(await hand.page.$$eval('td[data-cell] .mark.nonconforming', (marks) => marks.length)).toBe(1)
  })

  it('9 the finding carries its reasoning, line by line and for the lot', async () => {
    await hand.chord('Control', 'Enter')
    await hand.sees('I-000001 is finished: not acceptable')
    expect(await hand.textOf('[data-test=finding]')).toBe('Gate gap: 1 nonconforming of 2, Ac 0 → lot not acceptable')
    await hand.sees('Gate gap: 2 inspected, 1 nonconforming, Ac 0 → not acceptable')
    await hand.sees('Burrs: 3 inspected, 0 nonconforming, Ac 0 → acceptable')
    await hand.take('[data-test=to-decision]')
    await hand.sees('A quality manager decides this')
  })

  it('10 the manager splits the quantities, which have to add up, and seals with the password', async () => {
    hand = await be('qualityManager')
    await hand.turnTo('.rail', '/contain')
    await hand.sees('decision: not acceptable')
    await hand.press('j')
    await hand.sees('adds up to what is held')
    await hand.fill('[data-field=reason0]', 'every bar to be tested')
    await hand.select('[data-field=disposition1]', 'use as is')
    await hand.fill('[data-field=quantity1]', '100')
    await hand.fill('[data-field=reason1]', 'gap does not matter for this order')
    await hand.sees('K-000002: 20 without a decision')
    await hand.take('button[aria-label="Split row 2"]')
    await hand.select('[data-field=disposition2]', 'return to supplier')
    await hand.fill('[data-field=quantity2]', '20')
    await hand.fill('[data-field=reason2]', 'bent')
    await hand.sees('adds up to what is held')
    await hand.press('Enter')
    await hand.page.waitForSelector('input[name=seal-password]:focus')
    await hand.besides(async () => {
      await hand.fill('input[name=seal-password]', 'not it')
      await hand.press('Enter')
      await hand.sees('The password is wrong; nothing was changed')
    })
    await hand.fill('input[name=seal-password]', password)
    await hand.press('Enter')
    await hand.page.waitForSelector('.sheet .seal')
    await hand.sees('Decided and sealed: split')
    await hand.sees(/100 released[\s\S]*120 quarantined[\s\S]*20 returned[\s\S]*together 240 pieces, as received/)
  })

  it('7 again: what was released is put away, and the delivery is free', async () => {
    hand = await be('receivingClerk')
    await hand.page.reload()
    await hand.sees('○ free')
    await hand.take('[data-test=put-away]')
    await hand.sees('100 put away')
  })

  it('11 the passport tells the whole story on one page', async () => {
    hand = await be('auditor')
    await hand.turnTo('.rail', '/trace')
    await hand.sees('L-000001')
    await hand.press('j')
    await hand.sees('Received, 240 pieces')
    for (const words of [
      'I-000001 opened: Bar receiving',
      'I-000001: first reading',
      'Inspected: Bar receiving',
      'Decided: split',
      'Put away, 100 of K-000002',
      'their lot MV-88213',
    ])
      await hand.sees(words)
    await hand.take('summary')
    await hand.sees('0.52')
    await hand.sees('Movements, 6')
    expect(await hand.page.$('.spine .seal')).not.toBeNull()
  })

  it('12 the report is there as PDF, CSV and JSON', async () => {
    await hand.reach('[data-test=report-pdf]')
    const files = await hand.page.evaluate(async () => {
      const address = document.querySelector<HTMLAnchorElement>('[data-test=report-pdf]')?.href ?? ''
      const get = async (ending: string) => {
        const response = await fetch(address.replace(/pdf$/, ending))
        return [response.headers.get('content-type') ?? '', await response.text()]
      }
      return { pdf: await get('pdf'), csv: await get('csv'), json: await get('json') }
    })
    expect(files.pdf[0]).toBe('application/pdf')
    expect(files.pdf[1]).toMatch(/^%PDF-/)
    expect(files.csv[1]).toContain('C-GAP,1,Gate gap,1,0.34,mm,0.25,0.35,conforming')
    expect(JSON.parse(files.json[1] ?? '')).toMatchObject({ inspection: { code: 'I-000001', lotSize: 240 } })
    // What a newcomer presses and clicks from the empty plant to here, each at a first page, with every way there.
    const effort = effortOf(hands)
    expect(effort.keys).toBeLessThanOrEqual(650)
    expect(effort.clicks).toBeLessThanOrEqual(80)
  })

  it('leaves no error behind in any browser, and a chain and ledger that verify', async () => {
    hand = await be('auditor')
    await hand.open('/people/audit')
    await hand.reach('[data-test=prove]')
    await hand.press('Enter')
    await hand.sees(/entries recomputed up to \d+:[\da-f]{16}; every row is as it was written, every lot adds up/)
    expect(hands.flatMap((person) => person.problems)).toEqual([])
    // Nobody else on the machine reads what the plant wrote.
    const files = readdirSync(installation.folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile())
    expect(files.length).toBeGreaterThan(1)
    for (const { parentPath, name } of files) expect([name, statSync(join(parentPath, name)).mode & 0o077]).toEqual([name, 0])
    expect(installation.command('verify')).toMatchObject({
      status: 0,
      output: expect.stringContaining('every row as it was written, the ledger adds up'),
    })
  })
})
