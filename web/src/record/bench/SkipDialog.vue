<template>
  <v-dialog v-model="isOpen" width="520" aria-label="Left blank">
    <v-card title="Left blank">
      <v-card-text>
        <p class="soft">These need not be answered. Say why they are skipped; it stands in the report.</p>
        <div v-for="(entry, i) in skipped" :key="entry.lineId" class="skip">
          <v-combobox
            v-model="reasons[entry.lineId]"
            v-first-focus="i === 0"
            :items="kept"
            :label="`${entry.line}, ${count(entry.blank, 'blank')}`"
            :data-field="`skip${i}`"
          />
        </div>
      </v-card-text>
      <v-card-actions
        ><v-btn @click="isOpen = false">Back to the bench</v-btn
        ><v-btn color="primary" :disabled="!isComplete" data-test="skip-finish" @click="finish">Finish</v-btn></v-card-actions
      >
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import type { LineSkip } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { vFirstFocus } from '../../shell/firstFocus'
import { useReasons } from '../../shell/useReasons'
import { count } from '../../format/format'

export interface SkippedLine {
  readonly lineId: string
  readonly line: string
  readonly blank: number
}

/** Asks why lines were left blank that need not be answered; the reasons that are kept for this are offered. */
const { skipped } = defineProps<{ skipped: readonly SkippedLine[] }>()
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ finish: [skips: LineSkip[]] }>()
const kept = useReasons('skip', () => isOpen.value)
const reasons = ref<Record<string, string | null>>({})
watch(isOpen, (value) => {
  if (value) reasons.value = {}
})
const skips = computed(() => skipped.map(({ lineId }) => ({ lineId, reason: (reasons.value[lineId] ?? '').trim() })))
const isComplete = computed(() => skips.value.every(({ reason }) => reason.length >= 3))
function finish(): void {
  if (!isComplete.value) return
  isOpen.value = false
  emit('finish', skips.value)
}
</script>
