<template>
  <v-dialog v-model="isShown" width="420" aria-label="Change your password">
    <v-card title="Change your password">
      <v-card-text>
        <form id="password" class="stack" @submit.prevent="change">
          <ErrorNote :failure="saver.note.value" />
          <PasswordField v-model="current" label="Current password" is-first :error-messages="saver.fieldErrors.value['current']" />
          <PasswordField
            v-model="next"
            label="New password, at least 12 characters"
            is-new
            :own="session.ownNames"
            :error-messages="saver.fieldErrors.value['next']"
          />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="isShown = false">Cancel</v-btn>
        <v-btn form="password" type="submit" color="primary" variant="flat" :loading="saver.isBusy.value">Change</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { people } from '@nemawashi/contract'
import { ref, watch } from 'vue'
import { call } from '../shell/api'
import { notify } from '../shell/notify'
import { useSession } from '../shell/session'
import ErrorNote from '../components/ErrorNote.vue'
import { useSaver } from '../composables/useSaver'
import PasswordField from './PasswordField.vue'

/** Everybody changes their own password here; an administrator sets a forgotten one under People. */
const isShown = defineModel<boolean>({ required: true })
const saver = useSaver()
const session = useSession()
const current = ref('')
const next = ref('')
watch(isShown, () => {
  current.value = next.value = ''
  saver.clear()
})
async function change(): Promise<void> {
  const done = await saver.save(async () => void (await call(people.changePassword, { body: { current: current.value, next: next.value } })))
  if (!done) return
  isShown.value = false
  notify('Your password is changed.')
}
</script>
