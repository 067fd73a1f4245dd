import type { CredentialChange, Owed, Person, SecondFactorRule, Session } from '@nemawashi/contract'
import { ServerError } from '../kernel/base/serverError'
import type { Reader } from '../kernel/work/database'
import type { Work } from '../kernel/work/unitOfWork'
import type { Attempts } from './attempts'
import { GivenPasswordEntity, SecondFactorEntity, type SecondFactorRow } from './entities'
import { credentialChangesOf } from './repository'
import { FactorKeys, newRecoveryCodes, newSecret, stepOf, uriOf } from './secondFactor'

type Who = Pick<Person, 'id' | 'roles' | 'signInName'>

/** A code that was looked at and found right: taken with the sign-in, so that of two that come with it at once one is refused. */
export interface TakenCode {
  readonly step: number | null
  readonly recovery: string[] | null
}

const wrong = () => new ServerError('second_factor_wrong', 'This code is not the one of now, or it was used already.', { field: 'code' })

/** How people show who they are besides the first look at their password: whether it is their own, and their second factor. */
export class Credentials {
  private readonly keys: FactorKeys

  constructor(
    private readonly reader: Reader,
    private readonly attempts: Attempts,
    chainKey: Buffer,
    private readonly isGivenKept: boolean,
    readonly rule: SecondFactorRule,
  ) {
    this.keys = new FactorKeys(chainKey)
  }

  /** What this person has to do before anything else. Another system chooses no password and has no telephone. */
  async owedBy({ id, roles }: Who): Promise<Owed | null> {
    if (roles.every((role) => role === 'orderFeed')) return null
    if (!this.isGivenKept && (await this.reader.countBy(GivenPasswordEntity, { id })) > 0) return 'password'
    const isAsked = this.rule === 'everybody' || (this.rule === 'administrators' && roles.includes('administrator'))
    return isAsked && !(await this.factorOf(id))?.confirmedAt ? 'secondFactor' : null
  }

  async secondFactorOf(person: Who | null): Promise<Session['secondFactor']> {
    const row = person && (await this.factorOf(person.id))
    return { rule: this.rule, isOn: Boolean(row?.confirmedAt), recoveryLeft: row?.confirmedAt ? row.recovery.length : 0 }
  }

  /** Since when somebody signed in before this time, and what was done since then to how they sign in, by whomever. */
  async changesOf(personId: string): Promise<{ lastAt: string | null; changes: CredentialChange[] }> {
    return credentialChangesOf(this.reader, personId)
  }

  /**
   * Looks at the code of somebody whose password was right. Tries are counted, as with passwords.
   * @returns what to take with the sign-in; null where none is asked for
   * @throws {ServerError} `second_factor_needed`, `second_factor_wrong`, `too_many_attempts`
   */
  async checkCode(personId: string, code: string | undefined, now: Date): Promise<TakenCode | null> {
    const row = await this.factorOf(personId)
    if (this.rule === 'off' || !row?.confirmedAt) return null
    if (code === undefined || code.trim() === '') throw new ServerError('second_factor_needed', 'This person has a second factor.', { field: 'code' })
    const succeeded = await this.attempts.code(personId)
    const taken = this.look(row, code, now)
    if (taken === null) throw wrong()
    await succeeded()
    return taken
  }

  /** Takes a code that was found right; refuses it where it was used between. */
  async take(work: Work, personId: string, taken: TakenCode | null): Promise<void> {
    if (taken === null) return
    const row = await work.manager.findOneByOrFail(SecondFactorEntity, { id: personId })
    if (taken.step !== null) {
      if (taken.step <= row.lastStep) throw wrong()
      await work.manager.update(SecondFactorEntity, { id: personId }, { lastStep: taken.step })
      return
    }
    const left = taken.recovery ?? []
    if (row.recovery.length !== left.length + 1) throw wrong()
    await work.manager.update(SecondFactorEntity, { id: personId }, { recovery: left })
    work.audit({ action: 'recovery code used', subject: 'person', subjectId: personId, after: { left: left.length } })
  }

  /** A new secret, in the place of one that was not confirmed. @throws {ServerError} `second_factor_on` */
  async begin(work: Work, { id, signInName }: Who): Promise<{ secret: string; uri: string }> {
    const row = await work.manager.findOneBy(SecondFactorEntity, { id })
    if (row?.confirmedAt) throw new ServerError('second_factor_on', 'There is a second factor already.', {})
    const secret = newSecret()
    const fields = { sealedSecret: this.keys.seal(secret, id), confirmedAt: null, lastStep: 0, recovery: [] }
    if (row) await work.manager.update(SecondFactorEntity, { id }, fields)
    else await work.manager.insert(SecondFactorEntity, { id, ...fields })
    work.audit({ action: 'second factor begun', subject: 'person', subjectId: id })
    return { secret, uri: uriOf(secret, signInName) }
  }

  /** @throws {ServerError} `second_factor_wrong`, `second_factor_on`, `too_many_attempts` */
  async checkFirst(personId: string, code: string, now: Date): Promise<TakenCode> {
    const row = await this.factorOf(personId)
    if (row?.confirmedAt) throw new ServerError('second_factor_on', 'It is confirmed already.', {})
    const succeeded = await this.attempts.code(personId)
    const taken = row && this.look(row, code, now)
    if (!taken) throw wrong()
    await succeeded()
    return taken
  }

  /** Gives the recovery codes, once. */
  async confirm(work: Work, personId: string, { step }: TakenCode): Promise<string[]> {
    const codes = newRecoveryCodes()
    const recovery = codes.map((code) => this.keys.mark(code))
    await work.manager.update(SecondFactorEntity, { id: personId }, { confirmedAt: work.now, lastStep: step ?? 0, recovery })
    work.audit({ action: 'second factor set up', subject: 'person', subjectId: personId })
    return codes
  }

  /** Says whether there was one. */
  async end(work: Work, personId: string): Promise<boolean> {
    const row = await work.manager.findOneBy(SecondFactorEntity, { id: personId })
    if (!row) return false
    await work.manager.delete(SecondFactorEntity, { id: personId })
    work.audit({ action: 'second factor taken away', subject: 'person', subjectId: personId })
    return true
  }

  /** Keeps that a password was chosen by somebody else, or that it is the person's own now. */
  async noteGiven(work: Work, personId: string, byId: string | null): Promise<void> {
    await work.manager.delete(GivenPasswordEntity, { id: personId })
    if (byId !== null && byId !== personId) await work.manager.insert(GivenPasswordEntity, { id: personId, byId, at: work.now })
  }

  private factorOf(id: string): Promise<SecondFactorRow | null> {
    return this.reader.findOneBy(SecondFactorEntity, { id })
  }

  private look(row: SecondFactorRow, code: string, now: Date): TakenCode | null {
    const secret = this.keys.open(row.sealedSecret, row.id)
    const step = secret === null ? null : stepOf(secret, code, now)
    if (step !== null) return step > row.lastStep ? { step, recovery: null } : null
    const recovery = this.keys.without(row.recovery, code)
    return recovery === null ? null : { step: null, recovery }
  }
}
