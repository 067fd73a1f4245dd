import { peopleList, auditWords } from './repository'
import { endpoints, type Person } from '@nemawashi/contract'
import type { Subjects } from '../kernel/area'
import { nameKey } from './attempts'
import type { App } from './app'
import type { Reader } from '../kernel/work/database'
import type { Routes } from '../kernel/routes'
import type { Work } from '../kernel/work/unitOfWork'
import { ServerError } from '../kernel/base/serverError'
import { loadAt, saveNext } from '../kernel/work/versioned'
import { PersonEntity, personOf, type PersonRow } from './entities'
import { auditFilters, auditList } from './auditRepository'
import { auditOnPaper, auditPaper } from './auditPdf'
import { checkPassword, checkSeal } from './checkPassword'
import { Devices } from './devices'
import { createPerson, requireFreeSignInName } from './createPerson'
import { requireHardToGuess } from './guessable'
import { hashPassword } from './passwords'
import { pictureOf } from './secondFactorPicture'
import { sendPaper } from '../kernel/pdf/paper'
import { searchAll } from './searchRepository'

const { people } = endpoints

/** @throws {ServerError} `not_found` */
async function personAt(reader: Pick<Reader, 'findOneBy'>, id: string): Promise<PersonRow> {
  const row = await reader.findOneBy(PersonEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no person with the id ${id}.`)
  return row
}

/** Whether changes are stored, and what stands in the way. */
function healthOf({ trouble, clockTrouble, headTrouble }: App['work']) {
  if (trouble) return { status: 'notStoring' as const, trouble: trouble.message }
  if (clockTrouble !== null) return { status: 'clockWrong' as const, trouble: clockTrouble }
  return headTrouble === null ? { status: 'ok' as const, trouble: null } : { status: 'headNotWritten' as const, trouble: headTrouble }
}

export function peopleRoutes(routes: Routes, kernel: App): void {
  const { attempts, areas, credentials } = kernel
  const devices = new Devices(kernel.chain.key, kernel.config.tls !== null)
  const list = auditList(Object.assign({}, ...areas.map(({ subjects }) => subjects)) as Subjects)
  const finds = areas.flatMap((area) => area.searchProviders ?? [])
  const { reader } = kernel.database
  const countPeople = () => reader.countBy(PersonEntity, {})

  routes.read(people.health, async (db) => {
    await db.countBy(PersonEntity, {})
    return {
      ...healthOf(kernel.work),
      version: kernel.version,
      startedAt: kernel.startedAt,
    }
  })

  routes.read(people.getSession, async (_db, { person, request }) => ({
    person,
    owes: await kernel.sessions.owedBy(request),
    secondFactor: await credentials.secondFactorOf(person),
    timeZone: kernel.config.timeZone,
    // Whoever looks after the plant sees it on every page.
    trouble: person?.roles.includes('administrator') ? kernel.work.headTrouble : null,
    clockTrouble: person?.roles.includes('administrator') ? kernel.work.clockTrouble : null,
    isSecure: kernel.config.tls !== null,
    isGivenPasswordKept: kernel.config.isGivenPasswordKept,
    needsFirstAdministrator: person === null && (await countPeople()) === 0,
    demoPeople: person === null ? [...kernel.demoPeople] : [],
  }))

  routes.changeAfter(
    people.signIn,
    async ({ body, request }) => {
      const row = await checkPassword(reader, attempts, body.signInName, body.password, request.ip ?? '', (id) => devices.of(request, id))
      if (!row) throw new ServerError('sign_in_failed', 'The name or the password is wrong.')
      return { person: personOf(row), taken: await credentials.checkCode(row.id, body.code, kernel.clock.now()) }
    },
    async (work, { request, response }, { person, taken }) => {
      await credentials.take(work, person.id, taken)
      await kernel.sessions.open(work, person.id, request, response)
      devices.remember(request, response, person.id)
      work.audit({ action: 'signed in', subject: 'person', subjectId: person.id, personId: person.id })
      return { person }
    },
  )

  routes.changeAfter(
    people.agreeToClock,
    async () => {
      const was = kernel.work.clockTrouble
      await kernel.work.agreeToClock()
      return was
    },
    async (work, _asked, was) => {
      work.audit({ action: 'clock agreed', subject: 'plant', subjectId: '', after: { was } })
      return {}
    },
  )

  routes.change(people.signOut, async (work, { request, response, person }) => {
    await kernel.sessions.close(work, request, response)
    if (person) work.audit({ action: 'signed out', subject: 'person', subjectId: person.id })
    else work.nothingChanged()
    return {}
  })

  routes.changeAfter(
    people.createFirstAdministrator,
    async ({ body, request }) => {
      // The code is printed where the server runs: who came first to the page is not enough.
      const counted = await attempts.signIn('first administrator', request.ip ?? '')
      if (body.code.trim().toUpperCase() !== kernel.setupCode)
        throw new ServerError('setup_code_wrong', 'That is not the code which the server printed at its start.', { field: 'code' })
      await counted()
      await requireHardToGuess(body.password, 'password', body)
      return hashPassword(body.password)
    },
    async (work, { body: { code: _, ...body }, request, response }, passwordHash) => {
      if ((await work.manager.countBy(PersonEntity, {})) > 0) throw new ServerError('already_set_up', 'This installation has people already.')
      const row = await createPerson(work, { ...body, roles: ['administrator'] }, passwordHash)
      await kernel.sessions.open(work, row.id, request, response)
      return { person: personOf(row) }
    },
  )

  routes.changeAfter(
    people.changePassword,
    async ({ body, person }) => {
      await checkSeal(reader, attempts, person as Person, body.current, 'current')
      await requireHardToGuess(body.next, 'next', person as Person)
      return hashPassword(body.next)
    },
    async (work, { person, request }, passwordHash) => {
      const row = await work.manager.findOneByOrFail(PersonEntity, { id: person?.id ?? '' })
      await work.manager.update(PersonEntity, { id: row.id }, { passwordHash, version: row.version + 1 })
      work.audit({ action: 'password changed', subject: 'person', subjectId: row.id })
      await credentials.noteGiven(work, row.id, null)
      await kernel.sessions.endAll(work, row.id, request)
      return {}
    },
  )

  routes.read(people.listCredentialChanges, async (_db, { person }) => credentials.changesOf((person as Person).id))
  routes.change(people.beginSecondFactor, async (work, { person }) => {
    const begun = await credentials.begin(work, person as Person)
    return { ...begun, picture: await pictureOf(begun.uri) }
  })
  routes.changeAfter(
    people.confirmSecondFactor,
    async ({ body, person }) => credentials.checkFirst((person as Person).id, body.code, kernel.clock.now()),
    async (work, { person }, taken) => ({ recoveryCodes: await credentials.confirm(work, (person as Person).id, taken) }),
  )
  const endFactor = async (work: Work, id: string) => {
    const ended = await credentials.end(work, id)
    if (!ended) work.nothingChanged()
    kernel.sessions.forget()
    return { ended }
  }
  routes.change(people.endSecondFactor, (work, { person }) => endFactor(work, (person as Person).id))
  routes.change(people.endSecondFactorOf, async (work, { params }) => {
    await personAt(work.manager, params.id)
    return endFactor(work, params.id)
  })

  routes.read(people.listSessions, async (_db, { person, request }) => ({ sessions: await kernel.sessions.ofPerson((person as Person).id, request) }))
  routes.change(people.endSession, async (work, { params, person }) => {
    const { id } = person as Person
    if (await kernel.sessions.endOne(work, id, params.id)) work.audit({ action: 'session ended', subject: 'person', subjectId: id })
    else work.nothingChanged()
    return {}
  })

  routes.change(people.endSessionsOf, async (work, { params, person, request }) => {
    const row = await personAt(work.manager, params.id)
    const ended = await kernel.sessions.endAll(work, row.id, row.id === person?.id ? request : null)
    if (ended > 0) work.audit({ action: 'sessions ended', subject: 'person', subjectId: row.id, after: { ended } })
    else work.nothingChanged()
    return { ended }
  })
  routes.change(people.giveToken, async (work, { params, body }) => {
    const row = await loadAt(work, PersonEntity, 'person', params.id, body.version)
    if (row.roles.join() !== 'orderFeed' || !row.isActive) throw new ServerError('not_a_feed', `${row.name} is no other system.`, { has: row.roles })
    const given = await kernel.sessions.give(work, row.id)
    work.audit({ action: 'key given', subject: 'person', subjectId: row.id, after: { expiresAt: given.expiresAt } })
    return given
  })
  routes.list(people.listPeople, peopleList)

  routes.read(people.getPerson, async (db, { params }) => {
    return personOf(await personAt(db, params.id))
  })

  routes.changeAfter(
    people.createPerson,
    async ({ body }) => {
      await requireHardToGuess(body.password, 'password', body)
      return hashPassword(body.password)
    },
    async (work, { body, person }, passwordHash) => {
      const row = await createPerson(work, body, passwordHash)
      await credentials.noteGiven(work, row.id, person?.id ?? null)
      return personOf(row)
    },
  )

  routes.changeAfter(
    people.updatePerson,
    async ({ body }) => {
      if (body.password === null) return null
      await requireHardToGuess(body.password, 'password', body)
      return hashPassword(body.password)
    },
    async (work, { params, body, person, request }, passwordHash) => {
      const row = await loadAt(work, PersonEntity, 'person', params.id, body.version)
      await requireFreeSignInName(work, body.signInName, row.id)
      const isOwn = row.id === person?.id
      if (isOwn && (!body.isActive || !body.roles.includes('administrator'))) {
        throw new ServerError('still_in_use', 'You cannot take your own administration away. Let another administrator do it.', { field: 'roles' })
      }
      const { version: _, password: __, dayMinutes = row.dayMinutes, ...fields } = body
      await saveNext(work, PersonEntity, 'person', 'changed', row, { ...fields, dayMinutes, signInKey: nameKey(body.signInName) })
      if (passwordHash !== null) {
        await work.manager.update(PersonEntity, { id: row.id }, { passwordHash })
        work.audit({ action: 'password set', subject: 'person', subjectId: row.id })
        await credentials.noteGiven(work, row.id, person?.id ?? null)
      }
      // Who has a new password, or may not come any more, has no session left from before.
      if (passwordHash !== null || !body.isActive) await kernel.sessions.endAll(work, row.id, isOwn ? request : null)
      kernel.sessions.forget()
      return personOf(await work.manager.findOneByOrFail(PersonEntity, { id: row.id }))
    },
  )

  routes.list(people.listAudit, list, auditFilters)
  routes.stream(people.getAuditPdf, async (db, { query, response }) => {
    const content = await auditOnPaper(db, list, query, auditFilters(query))
    await sendPaper(kernel, response, auditPaper, content, 'audit')
  })
  routes.read(people.listAuditWords, async (db) => {
    return { actions: await auditWords(db, 'action'), subjects: await auditWords(db, 'subject') }
  })

  routes.read(people.verifyAudit, async (_db, { query }) => {
    const said = kernel.chain.file.read()
    // Changes go on meanwhile: what the file says by then may be further than what is read.
    const head = await kernel.chain.head()
    const heads = [{ where: 'the file with the head of the chain', head: said === null || said === 'damaged' ? (said ?? head) : head }]
    const { entries, breaks } = await kernel.progress.follow(query.progress ?? null, (report) =>
      kernel.chain.verify(heads, (done, total) => void report(done, total)),
    )
    const { trouble } = kernel.chain
    const lost =
      trouble === null
        ? []
        : [
            `at the start the chain ended at entry ${trouble.found.seq}, but ${trouble.said === 'damaged' ? 'the file outside could not be read' : `entry ${trouble.said.seq} had been acknowledged`}`,
          ]
    const all = [...lost, ...breaks]
    return { entries, isWhole: all.length === 0, breaks: all, head: { seq: head.seq, hash: head.hash } }
  })

  routes.readLong(people.search, async (db, { query }) => ({ hits: await searchAll(db, finds, query.q) }))
}
