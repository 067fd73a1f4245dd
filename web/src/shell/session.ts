import { type Endpoint, type Person, type Role, type Session, define, mayCall, people } from '@nemawashi/contract'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { actingAs, call, Failure, onOwing, onSignedOut } from './api'
import { plantZone } from './plantTime'
import { queryClient } from './queries'

const againMs = 2000

/** Somebody signed out here, and the server does not know it yet: kept over a reload, for every tab. */
const leaving = {
  name: 'nemawashi signs out',
  isSet: () => localStorage.getItem(leaving.name) !== null,
  set: () => localStorage.setItem(leaving.name, '1'),
  clear: () => localStorage.removeItem(leaving.name),
}

/** Who is signed in; two pages and the frame need to know. */
export const useSession = defineStore('session', () => {
  const person = ref<Person | null>(null)
  /** What has to be done before anything else; every page stands back until then. */
  const owes = ref<Session['owes']>(null)
  const secondFactor = ref<Session['secondFactor']>({ rule: 'offered', isOn: false, recoveryLeft: 0 })
  const needsFirstAdministrator = ref(false)
  const demoPeople = ref<Session['demoPeople']>([])
  const hasLoaded = ref(false)
  /** Whether the server speaks HTTPS; the sign-in page says what it means when it does not. */
  const isSecure = ref(true)
  const isGivenPasswordKept = ref(false)
  /** Set while the session has ended in the middle of work: the name that has to sign in again. */
  const interrupted = ref<string | null>(null)
  /** Whether the session goes on, and only what was asked for wants a newer sign-in. */
  const isOnlyOld = ref(false)
  let resume: (() => void) | null = null
  let abort: ((failure: Failure) => void) | null = null

  /** What an administrator has to look after. */
  const plantTrouble = ref<string | null>(null)
  const clockTrouble = ref<string | null>(null)
  /** Why the server cannot be asked who is signed in, while it cannot; it is asked again until it answers. */
  const trouble = ref<string | null>(null)

  /** Asks who is signed in, again and again as long as there is no answer: nothing can be shown before. */
  async function reach(): Promise<void> {
    for (;;) {
      try {
        await load()
        trouble.value = null
        return
      } catch (error) {
        if (!(error instanceof Failure) || error.code === 'origin_foreign') throw error
        trouble.value = error.message
        await new Promise((resolve) => setTimeout(resolve, againMs))
      }
    }
  }

  async function load(): Promise<void> {
    // Who signed out while the server could not be told is signed out before anything is shown.
    if (leaving.isSet()) {
      await call(people.signOut, {}).catch((error: unknown) => {
        if (!(error instanceof Failure) || error.code === 'unreachable') throw error
      })
      leaving.clear()
    }
    const session = await call(people.getSession, {})
    person.value = session.person
    owes.value = session.owes
    secondFactor.value = session.secondFactor
    plantZone.value = session.timeZone
    plantTrouble.value = session.trouble
    clockTrouble.value = session.clockTrouble
    isSecure.value = session.isSecure
    isGivenPasswordKept.value = session.isGivenPasswordKept
    needsFirstAdministrator.value = session.needsFirstAdministrator
    demoPeople.value = session.demoPeople
    hasLoaded.value = true
  }

  /** Says that the clock of the server is right as it is. */
  async function agreeToClock(): Promise<void> {
    await call(people.agreeToClock, {})
    await load()
  }

  async function signIn(signInName: string, password: string, code?: string): Promise<void> {
    const before = person.value?.id
    const entered = (await call(people.signIn, { body: { signInName, password, ...(code === undefined ? {} : { code }) } })).person
    leaving.clear()
    // Nobody sees what somebody else had asked for.
    if (before !== entered.id) queryClient.clear()
    // Something may have to come first, before any page.
    await load()
    interrupted.value = null
    resume?.()
  }

  async function signOut(): Promise<void> {
    // What is still being asked for belongs to nobody any more: its answers are not waited for.
    await queryClient.cancelQueries()
    person.value = null
    hasLoaded.value = false
    queryClient.clear()
    leaving.set()
    await reach()
  }

  /** Somebody else goes on at this place: what was asked for is given up, what was typed stays with who typed it. */
  function switchUser(): void {
    person.value = null
    interrupted.value = null
    queryClient.clear()
    abort?.(new Failure('signed_out', 'The session has ended.', 'Sign in. What was typed is kept with who typed it.'))
  }

  /** Whoever was asked for a newer sign-in does it later: the session goes on, what was asked for is not done. */
  function notNow(): void {
    interrupted.value = null
    abort?.(new Failure('sign_in_old', 'Nothing was changed: you did not sign in again.', 'What you typed is kept. Save it when you are ready to.'))
  }

  let waiting: Promise<void> | null = null
  onSignedOut((isOld) => {
    // Who signed out wanted to: there is nothing to go on with.
    if (person.value === null) return Promise.reject(new Failure('signed_out', 'Nobody is signed in.', 'Sign in.'))
    const { signInName } = person.value
    waiting ??= new Promise<void>((resolve, reject) => {
      interrupted.value = signInName
      isOnlyOld.value = isOld
      const ended = () => {
        waiting = null
        resume = abort = null
      }
      resume = () => {
        ended()
        resolve()
      }
      abort = (failure) => {
        ended()
        reject(failure)
      }
    })
    return waiting
  })

  onOwing(() => void load())
  /** What others would try first as this person's password. */
  const ownNames = computed(() => (person.value ? [person.value.name, person.value.signInName] : []))
  actingAs(() => person.value?.id ?? null)
  const has = (...roles: Role[]) => computed(() => roles.some((role) => person.value?.roles.includes(role) ?? false))
  /** Whether this person may call an address: asked of the contract, as the server does. */
  const may = (endpoint: Pick<Endpoint, 'access'>) => computed(() => mayCall(endpoint, person.value?.roles ?? null))
  const isEngineer = may(define.createCharacteristic)

  return {
    person,
    ownNames,
    owes,
    secondFactor,
    needsFirstAdministrator,
    demoPeople,
    hasLoaded,
    isSecure,
    isGivenPasswordKept,
    interrupted,
    isOnlyOld,
    trouble,
    plantTrouble,
    clockTrouble,
    agreeToClock,
    load,
    reach,
    signIn,
    signOut,
    switchUser,
    notNow,
    may,
    has,
    isEngineer,
  }
})
