<template>
  <div class="page stack">
    <h1>Your sign-in</h1>
    <SignInChanges />
    <template v-if="factor.rule !== 'off' || factor.isOn">
      <h2>Second factor</h2>
      <template v-if="factor.isOn">
        <p>
          {{
            factor.rule === 'off'
              ? 'It stands, and this plant asks nobody for a code now.'
              : 'Signing in asks for a one-time code (TOTP) besides your password.'
          }}
          {{ count(factor.recoveryLeft, 'recovery code') }} left{{
            factor.recoveryLeft < 3 ? ': take it away and set it up again to get new ones' : ''
          }}.
        </p>
        <div><v-btn variant="outlined" data-test="end-factor" :loading="saver.isBusy.value" @click="endFactor">Take it away …</v-btn></div>
      </template>
      <template v-else>
        <p class="soft">A one-time code from an app on your telephone besides the password: whoever learns the password alone does not come in.</p>
        <SecondFactorSetUp @done="session.load()" />
      </template>
    </template>
    <h2>Password</h2>
    <div><v-btn variant="outlined" data-test="change-password" @click="isChanging = true">Change it …</v-btn></div>
    <PasswordDialog v-model="isChanging" />
    <h2>Sessions</h2>
    <p class="soft">Everywhere you are signed in. End one that you do not know, and change your password. A new password ends all but this one.</p>
    <ErrorNote :failure="failure ?? saver.failure.value" />
    <table v-if="data" class="plain">
      <thead>
        <tr>
          <th>Browser</th>
          <th>Since</th>
          <th>Until</th>
          <th><span class="sr-only">end it</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="of in data.sessions" :key="of.id">
          <td>{{ browserWords(of.agent) }}</td>
          <td class="m">{{ momentOf(of.createdAt) }}</td>
          <td class="m">{{ momentOf(of.expiresAt) }}</td>
          <td class="right">
            <span v-if="of.isThis" class="soft">this one</span>
            <v-btn v-else size="small" variant="outlined" :loading="saver.isBusy.value" data-test="end-session" @click="end(of.id)">End it</v-btn>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<script setup lang="ts">
import { people } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import { useCrumbs } from '../shell/crumbs'
import { ask } from '../shell/ask'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import { count, momentOf } from '../format/format'
import SignInChanges from '../components/SignInChanges.vue'
import { useSaver } from '../composables/useSaver'
import { browserWords } from './browserWords'
import PasswordDialog from './PasswordDialog.vue'
import SecondFactorSetUp from './SecondFactorSetUp.vue'

/** How one signs in: the second factor, where one is signed in and an end to it, and what was done to it meanwhile. */
useCrumbs(() => [{ words: 'People', to: '/people' }, { words: 'Your sign-in' }])
const saver = useSaver()
const session = useSession()
const isChanging = ref(false)
const factor = computed(() => session.secondFactor)
async function endFactor(): Promise<void> {
  const answer = await ask({ title: 'Take your second factor away?', text: 'From then on the password alone signs you in.', yes: 'Take it away' })
  if (answer === null) return
  await saver.save(async () => {
    await call(people.endSecondFactor, {})
    await session.load()
  })
}
const { data, failure, reload } = useThing(people.listSessions, () => ({}))
async function end(id: string): Promise<void> {
  await saver.save(async () => {
    await call(people.endSession, { params: { id } })
    await reload()
  })
}
</script>

<style scoped>
.page {
  padding: 20px 28px 40px;
  max-width: 820px;
}
h2 {
  margin: 8px 0 0;
}
p {
  margin: 0;
}
</style>
