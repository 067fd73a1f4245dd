<template>
  <v-text-field
    v-model="model"
    v-first-focus
    class="mono"
    :label="label"
    name="one-time-code"
    autocomplete="one-time-code"
    inputmode="text"
    maxlength="40"
    hide-details="auto"
    :error-messages="errorMessages"
    data-field="code"
  />
</template>

<script setup lang="ts">
import { vFirstFocus } from '../shell/firstFocus'

/** The code of a second factor (TOTP), with the cursor in it as soon as it is asked for. */
const model = defineModel<string>({ required: true })
const { label = 'One-time code of your app, or a recovery code' } = defineProps<{ errorMessages?: string; label?: string }>()
</script>
