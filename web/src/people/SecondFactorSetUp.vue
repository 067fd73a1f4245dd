<template>
  <div class="stack" data-test="second-factor">
    <ErrorNote :failure="saver.note.value" />
    <template v-if="recoveryCodes">
      <p><b>Your second factor is set up.</b> From now on signing in asks for a code of the app.</p>
      <p>
        If the telephone is lost, each of these recovery codes signs you in once. They are shown now and never again: print them, or write them down,
        and keep them where your password is not.
      </p>
      <ol class="codes m" data-test="recovery-codes">
        <li v-for="entry in recoveryCodes" :key="entry">{{ entry }}</li>
      </ol>
      <div class="row">
        <v-btn color="primary" data-test="codes-kept" @click="kept">I have kept them</v-btn>
        <v-btn variant="text" @click="print">Print</v-btn>
      </div>
    </template>
    <form v-else-if="begun" class="stack" @submit.prevent="confirm">
      <p>Read this picture with an app for one-time codes (TOTP), or type the key into it. Then enter the code that it shows.</p>
      <div class="row top">
        <img class="picture" :src="pictureAddress" alt="The key as a QR code" width="180" height="180" />
        <div class="stack grow">
          <p class="small soft">The key, in groups of four:</p>
          <p class="m key" data-test="secret">{{ grouped }}</p>
          <CodeField v-model="code" label="The code that the app shows now" :error-messages="saver.fieldErrors.value['code'] ?? ''" />
          <div class="row">
            <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="code.trim() === ''">Confirm</v-btn>
            <v-btn v-if="!isOwed" variant="text" @click="begun = null">Not now</v-btn>
          </div>
        </div>
      </div>
    </form>
    <div v-else>
      <v-btn color="primary" variant="outlined" data-test="begin-factor" :loading="saver.isBusy.value" @click="begin">Set up a second factor</v-btn>
    </div>
  </div>
</template>

<script setup lang="ts">
import { type ReplyOf, people } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../shell/api'
import ErrorNote from '../components/ErrorNote.vue'
import { useSaver } from '../composables/useSaver'
import CodeField from './CodeField.vue'

/** Sets up a second factor: the picture for the app, its first code, and the recovery codes, once. */
defineProps<{ isOwed?: boolean }>()
const emit = defineEmits<{ done: [] }>()
const saver = useSaver()
const begun = ref<ReplyOf<typeof people.beginSecondFactor> | null>(null)
const recoveryCodes = ref<string[] | null>(null)
const code = ref('')
const grouped = computed(() => begun.value?.secret.replaceAll(/(.{4})(?=.)/g, '$1 '))
const pictureAddress = computed(() => `data:image/svg+xml,${encodeURIComponent(begun.value?.picture ?? '')}`)

async function begin(): Promise<void> {
  await saver.save(async () => {
    begun.value = await call(people.beginSecondFactor, {})
  })
}
async function confirm(): Promise<void> {
  await saver.save(async () => {
    recoveryCodes.value = (await call(people.confirmSecondFactor, { body: { code: code.value } })).recoveryCodes
  })
  code.value = ''
}
const print = () => globalThis.print()
function kept(): void {
  begun.value = recoveryCodes.value = null
  emit('done')
}
</script>

<style scoped>
p {
  margin: 0;
}
.picture {
  background: #fff;
  flex: none;
}
.key {
  overflow-wrap: anywhere;
}
.codes {
  columns: 2;
  max-width: 460px;
  margin: 0;
  padding-left: 28px;
}
</style>
