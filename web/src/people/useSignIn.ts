import { computed, ref } from 'vue'
import { useSession } from '../shell/session'
import { useSaver } from '../composables/useSaver'

/** A sign-in as it is typed: name, password, and the code of the second factor once the server asks for one. */
export function useSignIn(name: () => string) {
  const session = useSession()
  const password = ref('')
  const code = ref('')
  /** Whether this person has a second factor: known once the password was right. */
  const asksCode = ref(false)
  const saver = useSaver()

  /** True once somebody is in. */
  async function signIn(): Promise<boolean> {
    const isIn = await saver.save(() => session.signIn(name(), password.value, asksCode.value ? code.value : undefined))
    const failure = saver.failure.value
    if (failure?.code === 'second_factor_needed') {
      asksCode.value = true
      saver.clear()
    } else if (failure?.code === 'sign_in_failed') asksCode.value = false
    if (isIn) forget()
    code.value = ''
    return isIn
  }
  function forget(): void {
    password.value = code.value = ''
    asksCode.value = false
  }
  const codeError = computed(() => saver.fieldErrors.value['code'] ?? '')
  return { password, code, asksCode, codeError, signIn, forget, saver }
}
