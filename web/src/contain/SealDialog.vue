<template>
  <v-dialog v-model="isShown" width="520" aria-label="Put your seal under it">
    <v-card title="Put your seal under it">
      <v-card-text>
        <form id="seal" class="stack" @submit.prevent="emit('seal')">
          <p>
            <b class="m">{{ lotCode }}</b> · {{ partWords }}
          </p>
          <p v-if="finding" class="small" :class="isFailed ? 'nonconforming' : 'conforming'">{{ finding }}</p>
          <table class="plain" aria-label="What is signed">
            <tbody>
              <tr v-for="(row, i) in rows" :key="i">
                <td class="m">{{ amount(row.quantity, unit) }}</td>
                <td>{{ row.from }}</td>
                <td>
                  <b>{{ dispositionWords[row.disposition] }}</b>
                </td>
                <td class="soft small">{{ row.reason }}</td>
              </tr>
            </tbody>
          </table>
          <p data-test="then">{{ then }}</p>
          <ErrorNote :failure="failure" />
          <v-text-field v-model="password" v-first-focus label="Your password" name="seal-password" type="password" autocomplete="current-password" />
        </form>
      </v-card-text>
      <v-card-actions
        ><v-btn @click="isShown = false">Cancel</v-btn
        ><v-btn form="seal" type="submit" color="error" variant="flat" :loading="isBusy" data-test="sign">Seal</v-btn></v-card-actions
      >
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { dispositionWords, type Disposition } from '@nemawashi/core'
import type { Failure } from '../shell/api'
import { vFirstFocus } from '../shell/firstFocus'
import ErrorNote from '../components/ErrorNote.vue'
import { amount } from '../format/format'

/** What is about to be signed, quantity by quantity, and what happens then. */
defineProps<{
  lotCode: string
  partWords: string
  finding: string
  isFailed: boolean
  unit: string
  rows: readonly { quantity: number; from: string; disposition: Disposition; reason: string }[]
  then: string
  failure: Failure | null
  isBusy: boolean
}>()
const isShown = defineModel<boolean>({ required: true })
const password = defineModel<string>('password', { required: true })
const emit = defineEmits<{ seal: [] }>()
</script>

<style scoped>
p {
  margin: 0;
}
</style>
