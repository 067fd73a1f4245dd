<template>
  <v-dialog
    :model-value="dialog.question !== null"
    width="460"
    :aria-label="dialog.question?.title"
    @update:model-value="dialog.answer(null)"
    @after-enter="takeCursor"
  >
    <v-card v-if="dialog.question" :title="dialog.question.title">
      <v-card-text>
        <form id="ask" ref="form" v-first-focus="cursorOn === 'reason'" class="stack" @submit.prevent="confirm">
          <p data-test="consequence">{{ dialog.question.text }}</p>
          <v-combobox
            v-if="dialog.question.needsReason"
            v-model="reason"
            :items="kept"
            label="Reason"
            maxlength="500"
            aria-required="true"
            data-field="ask-reason"
          />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn v-first-focus="cursorOn === 'no'" data-test="ask-no" @click="dialog.answer(null)">{{ dialog.question.no ?? 'Cancel' }}</v-btn>
        <v-btn v-first-focus="cursorOn === 'yes'" form="ask" type="submit" color="primary" variant="flat" :disabled="!isReady" data-test="ask-yes">{{
          dialog.question.yes
        }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { dialog } from './ask'
import { focusFirst, vFirstFocus } from './firstFocus'
import { useReasons } from './useReasons'

/** Says what will happen before it does, and takes the reason where one is needed. */
const reason = ref<string | null>('')
const kept = useReasons('correction', () => dialog.question?.needsReason === true)
const isReady = computed(() => !dialog.question?.needsReason || (reason.value ?? '').trim().length >= 3)
const form = ref<HTMLFormElement>()
/** Where Enter goes: on with the reason, with what comes next, or nowhere. */
const cursorOn = computed(() => (dialog.question?.needsReason ? 'reason' : dialog.question?.isForward ? 'yes' : 'no'))
watch(
  () => dialog.question,
  () => (reason.value = ''),
)
/** The dialog takes the cursor once it is there, unless something in it has it by then. */
const takeCursor = () => focusFirst(form.value)
function confirm(): void {
  if (isReady.value) dialog.answer((reason.value ?? '').trim())
}
</script>

<style scoped>
p {
  margin: 0;
}
</style>
