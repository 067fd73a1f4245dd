<template>
  <v-dialog :model-value="session.interrupted !== null" width="440" persistent :aria-label="title">
    <v-card :title="title">
      <v-card-text>
        <form id="again" class="stack" @submit.prevent="signIn">
          <p class="soft">
            {{
              session.isOnlyOld
                ? 'Who may do what, and keys of other systems, ask for a sign-in of a moment ago. Everything you typed is kept; it is done once you have signed in.'
                : 'Everything you typed is kept. Sign in and the work goes on where it was.'
            }}
          </p>
          <ErrorNote :failure="saver.note.value" />
          <v-text-field :model-value="session.interrupted" label="Sign-in name" name="username" readonly />
          <PasswordField v-model="password" label="Password" name="password-again" is-first />
          <CodeField v-if="asksCode" v-model="code" :error-messages="codeError" />
        </form>
      </v-card-text>
      <v-card-actions
        ><v-btn v-if="session.isOnlyOld" variant="text" data-test="not-now" @click="later">Not now</v-btn
        ><v-btn v-else variant="text" data-test="somebody-else" @click="leave">Somebody else</v-btn><v-spacer /><v-btn
          form="again"
          type="submit"
          color="primary"
          variant="flat"
          :loading="saver.isBusy.value"
          >Sign in and go on</v-btn
        ></v-card-actions
      >
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import CodeField from './CodeField.vue'
import PasswordField from './PasswordField.vue'
import { useSignIn } from './useSignIn'

/** The session has ended in the middle of work: the same person goes on, or somebody else takes the place. */
const session = useSession()
const route = useRoute()
const router = useRouter()
const title = computed(() => (session.isOnlyOld ? 'Sign in again for this' : 'Your session has ended'))
const { password, code, asksCode, codeError, signIn, forget, saver } = useSignIn(() => session.interrupted ?? '')

function later(): void {
  forget()
  session.notNow()
}
/** To the sign-in page; what was typed waits for who typed it. */
async function leave(): Promise<void> {
  const then = route.fullPath
  forget()
  // The question stays until it is known that nobody is signed in: nothing is typed into the page behind it meanwhile.
  if (!(await saver.save(() => session.load()))) return
  session.switchUser()
  await router.push({ path: '/sign-in', query: { then } })
}
</script>
