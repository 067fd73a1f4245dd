import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, ListQuery, Nothing, Role, Version, words } from '../wire/endpoint'

const Name = words(120)
const SignInName = words(60)
const Password = z.string().min(12, 'at least 12 characters').max(128, 'at most 128 characters')

export const Person = z.strictObject({
  id: Id,
  name: Name,
  initials: words(4),
  signInName: SignInName,
  roles: z.array(Role).min(1, 'choose at least one role'),
  isActive: z.boolean(),
  /** Minutes of a day that can be planned with work at the bench: seven hours, unless said otherwise. */
  dayMinutes: z.int('whole minutes').min(0, 'at least 0').max(1440, 'at most 1440'),
  version: Version,
})
export type Person = z.infer<typeof Person>

const PersonInput = Person.pick({ name: true, initials: true, signInName: true, roles: true })

/** What somebody has to do before anything else: choose a password in the place of a given one, or set up a second factor. */
export const owed = ['password', 'secondFactor'] as const
export type Owed = (typeof owed)[number]

/** How the plant holds it with second factors: nobody is asked, who wants may, administrators have to, everybody has to. */
export const secondFactorRules = ['off', 'offered', 'administrators', 'everybody'] as const
export type SecondFactorRule = (typeof secondFactorRules)[number]

/** What was done to how somebody signs in, since they last did. */
export const CredentialChange = z.strictObject({ at: Instant, action: z.string(), byName: z.string().nullable() })
export type CredentialChange = z.infer<typeof CredentialChange>

export const Session = z.strictObject({
  person: Person.nullable(),
  owes: z.enum(owed).nullable(),
  secondFactor: z.strictObject({ rule: z.enum(secondFactorRules), isOn: z.boolean(), recoveryLeft: z.int() }),
  /** The plant's own time zone: days and times are shown in it, wherever the browser is. */
  timeZone: z.string(),
  /** What an administrator has to look after; null for nothing, and for everybody else. */
  trouble: z.string().nullable(),
  /** What is wrong with the clock of the server, for administrators; null while it is believed. */
  clockTrouble: z.string().nullable(),
  /** Whether the server speaks HTTPS. */
  isSecure: z.boolean(),
  /** Whether a password that an administrator gave stays, or is only good for choosing an own one. */
  isGivenPasswordKept: z.boolean(),
  needsFirstAdministrator: z.boolean(),
  demoPeople: z.array(z.strictObject({ name: z.string(), signInName: z.string(), roles: z.array(Role), password: z.string() })),
})
export type Session = z.infer<typeof Session>

export const AuditEntry = z.strictObject({
  id: z.string(),
  at: Instant,
  personName: z.string().nullable(),
  action: z.string(),
  subject: z.string(),
  /** The number or name that people know the subject by; null where it has none, or is not there any more. */
  subjectName: z.string().nullable(),
  subjectId: z.string(),
  why: z.string().nullable(),
  /** What differed, as JSON; null where nothing is said. */
  before: z.string().nullable(),
  after: z.string().nullable(),
})
export type AuditEntry = z.infer<typeof AuditEntry>

export const OwnSession = z.strictObject({ id: z.string(), createdAt: Instant, expiresAt: Instant, agent: z.string(), isThis: z.boolean() })
export type OwnSession = z.infer<typeof OwnSession>

const auditFilters = {
  personId: Id.optional(),
  subject: z.string().max(40).optional(),
  subjectId: Id.optional(),
  action: z.string().max(60).optional(),
  from: Instant.optional(),
  until: Instant.optional(),
  /** `all`: signing in and out too. */
  work: z.enum(['all']).optional(),
}
const auditors = ['auditor', 'administrator', 'qualityManager'] as const

export const SearchHit = z.strictObject({ kind: z.string(), id: z.string(), title: z.string(), detail: z.string() })
export type SearchHit = z.infer<typeof SearchHit>

const administrator = ['administrator'] as const

export const people = {
  health: endpoint('GET', '/api/v1/health', {
    access: 'anyone',
    summary: 'Whether the server and its database answer',
    reply: z.strictObject({
      status: z.enum(['ok', 'notStoring', 'clockWrong', 'headNotWritten']),
      trouble: z.string().nullable(),
      version: z.string(),
      startedAt: Instant,
    }),
  }),
  getSession: endpoint('GET', '/api/v1/session', { access: 'anyone', summary: 'Who is signed in', reply: Session }),
  signIn: endpoint('POST', '/api/v1/session', {
    access: 'anyone',
    summary: 'Sign in; the answer sets the session cookie',
    body: z.strictObject({
      signInName: z.string().max(60),
      password: z.string().max(200),
      /** One-time code of the second factor, or a recovery code; asked for where the person has one. */
      code: z.string().max(40).optional(),
    }),
    secrets: ['password', 'code'],
    isAtAnyTime: true,
    reply: z.strictObject({ person: Person }),
  }),
  signOut: endpoint('DELETE', '/api/v1/session', { access: 'anyone', summary: 'Sign out', isAtAnyTime: true, reply: Nothing }),
  agreeToClock: endpoint('POST', '/api/v1/clock-agreement', {
    access: administrator,
    summary: 'Say that the clock of the server is right, after it went back or leapt ahead; the plant goes on from what it says now',
    reply: Nothing,
  }),
  createFirstAdministrator: endpoint('POST', '/api/v1/first-administrator', {
    access: 'anyone',
    summary: 'Create the first administrator of an empty installation',
    body: z.strictObject({ code: z.string().max(40), name: Name, initials: Person.shape.initials, signInName: SignInName, password: Password }),
    secrets: ['password'],
    reply: z.strictObject({ person: Person }),
  }),
  changePassword: endpoint('PUT', '/api/v1/session/password', {
    access: 'signedIn',
    summary: 'Change the own password',
    body: z.strictObject({ current: z.string().max(200), next: Password }),
    secrets: ['current', 'next'],
    isWhileOwing: true,
    reply: Nothing,
  }),
  listCredentialChanges: endpoint('GET', '/api/v1/session/credential-changes', {
    access: 'signedIn',
    summary: 'What was done to how one signs in (password, second factor, sessions) since one last signed in',
    isWhileOwing: true,
    reply: z.strictObject({ lastAt: Instant.nullable(), changes: z.array(CredentialChange) }),
  }),
  beginSecondFactor: endpoint('POST', '/api/v1/session/second-factor', {
    access: 'signedIn',
    summary: 'Begin to set up a second factor (TOTP, RFC 6238): the secret and its picture, shown once; nothing is asked for before it is confirmed',
    isForJustSignedIn: true,
    isWhileOwing: true,
    isShownOnce: true,
    reply: z.strictObject({ secret: z.string(), uri: z.string(), picture: z.string().describe('SVG of the QR code') }),
  }),
  confirmSecondFactor: endpoint('PUT', '/api/v1/session/second-factor', {
    access: 'signedIn',
    summary: 'Confirm the second factor with its first code; answers the recovery codes, shown once',
    body: z.strictObject({ code: z.string().max(40) }),
    secrets: ['code'],
    isWhileOwing: true,
    isShownOnce: true,
    reply: z.strictObject({ recoveryCodes: z.array(z.string()) }),
  }),
  endSecondFactor: endpoint('DELETE', '/api/v1/session/second-factor', {
    access: 'signedIn',
    summary: 'Take the own second factor away',
    isForJustSignedIn: true,
    reply: z.strictObject({ ended: z.boolean() }),
  }),
  endSecondFactorOf: endpoint('DELETE', '/api/v1/people/:id/second-factor', {
    access: administrator,
    summary: 'Take the second factor of somebody away who has lost it',
    isForJustSignedIn: true,
    params: ById,
    reply: z.strictObject({ ended: z.boolean() }),
  }),
  listPeople: listEndpoint('/api/v1/people', 'People', Person),
  getPerson: endpoint('GET', '/api/v1/people/:id', { access: 'signedIn', summary: 'One person', params: ById, reply: Person }),
  createPerson: endpoint('POST', '/api/v1/people', {
    access: administrator,
    summary: 'Create a person',
    isForJustSignedIn: true,
    body: PersonInput.extend({ password: Password }),
    secrets: ['password'],
    reply: Person,
  }),
  updatePerson: endpoint('PUT', '/api/v1/people/:id', {
    access: administrator,
    summary: 'Change a person, their roles, or set a new password',
    isForJustSignedIn: true,
    params: ById,
    body: PersonInput.extend({
      isActive: z.boolean(),
      dayMinutes: Person.shape.dayMinutes.optional(),
      password: Password.nullable(),
      version: Version,
    }),
    secrets: ['password'],
    reply: Person,
  }),
  listSessions: endpoint('GET', '/api/v1/sessions', {
    access: 'signedIn',
    summary: 'The own sessions that have not ended',
    reply: z.strictObject({ sessions: z.array(OwnSession) }),
  }),
  giveToken: endpoint('POST', '/api/v1/people/:id/token', {
    access: ['administrator'],
    summary: 'Give another system its key: shown once, good for a year, ended by the next one or when it may not come any more',
    isForJustSignedIn: true,
    params: ById,
    body: z.strictObject({ version: Version }),
    reply: z.strictObject({ token: z.string(), expiresAt: Instant }),
    isShownOnce: true,
  }),
  endSession: endpoint('DELETE', '/api/v1/sessions/:id', {
    access: 'signedIn',
    summary: 'End one of the own sessions',
    params: z.strictObject({ id: z.string().regex(/^[0-9a-f]{64}$/, 'choose one from the list') }),
    reply: Nothing,
  }),
  endSessionsOf: endpoint('DELETE', '/api/v1/people/:id/sessions', {
    access: administrator,
    summary: 'End all sessions of a person, wherever they are signed in',
    params: ById,
    reply: z.strictObject({ ended: z.int() }),
  }),
  listAudit: listEndpoint('/api/v1/audit', 'The audit chain', AuditEntry, auditFilters, auditors),
  getAuditPdf: endpoint('GET', '/api/v1/audit.pdf', {
    access: auditors,
    summary: 'The audit chain as PDF, filtered like the list',
    query: ListQuery.extend(auditFilters),
    reply: z.string().describe('PDF'),
  }),
  listAuditWords: endpoint('GET', '/api/v1/audit-words', {
    access: auditors,
    summary: 'The kinds of actions and of things that the audit chain holds',
    reply: z.strictObject({ actions: z.array(z.string()), subjects: z.array(z.string()) }),
  }),
  verifyAudit: endpoint('GET', '/api/v1/audit-verification', {
    access: auditors,
    summary: 'Recompute the audit chain and the ledger, and name the first break',
    query: z.strictObject({ progress: Id.optional().describe('Under which GET /api/v1/progress/:id says how many entries were read') }),
    reply: z.strictObject({
      entries: z.int(),
      isWhole: z.boolean(),
      breaks: z.array(z.string()),
      head: z.strictObject({ seq: z.int(), hash: z.string() }),
    }),
  }),
  search: endpoint('GET', '/api/v1/search', {
    access: 'signedIn',
    summary: 'Find parts, lots, containers, serial numbers, inspections, deliveries, plans, characteristics and people',
    query: z.strictObject({ q: z.string().trim().min(1).max(100) }),
    reply: z.strictObject({ hits: z.array(SearchHit) }),
  }),
}
