<template>
  <v-dialog v-model="isOpen" width="560" aria-label="Change the sample">
    <v-card :title="`${line.name}: change the sample`">
      <form @submit.prevent="save">
        <v-card-text class="stack">
          <p class="soft small">
            Its control point is adaptable. The line was opened with n {{ line.adaptedFrom?.sampleSize ?? line.sampleSize }}, Ac
            {{ line.adaptedFrom?.accept ?? line.accept }}; that is kept, with your reason.
          </p>
          <div class="row top">
            <v-text-field
              v-model.number="sampleSize"
              v-first-focus
              type="number"
              min="0"
              label="Sample size n (0 drops the line)"
              aria-required="true"
              data-field="adapt-n"
            />
            <v-text-field
              v-model.number="accept"
              type="number"
              min="0"
              label="Acceptance number Ac"
              :disabled="sampleSize === 0"
              data-field="adapt-ac"
            />
          </div>
          <p class="small" :class="problem ? 'nonconforming' : ''" data-test="adapt-risk" aria-live="polite">{{ problem || risk }}</p>
          <v-combobox v-model="reason" :items="kept" label="Reason" aria-required="true" data-field="adapt-reason" />
          <ErrorNote :failure="failure" />
        </v-card-text>
        <v-card-actions
          ><v-btn @click="isOpen = false">Leave it as it is</v-btn
          ><v-btn type="submit" color="primary" :disabled="problem !== '' || (reason ?? '').trim().length < 3" data-test="adapt-save">{{
            sampleSize === 0 ? 'Drop the line' : 'Change it'
          }}</v-btn></v-card-actions
        >
      </form>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { checkAdapted, CoreError, nonconformingAt } from '@nemawashi/core'
import { type Inspection, type InspectionLine, record } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import { vFirstFocus } from '../../shell/firstFocus'
import { useReasons } from '../../shell/useReasons'
import ErrorNote from '../../components/ErrorNote.vue'
import { whole } from '../../format/format'

/** Changes the sample of a line or drops it: what the change does to the risk is shown before it is made. */
const { inspection, line, answered } = defineProps<{ inspection: Inspection; line: InspectionLine; answered: number }>()
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ changed: [inspection: Inspection] }>()
const kept = useReasons('skip', () => isOpen.value)
const sampleSize = ref(0)
const accept = ref(0)
const reason = ref<string | null>('')
const failure = ref<Failure | null>(null)
watch(isOpen, (value) => {
  if (!value) return
  failure.value = null
  reason.value = ''
  sampleSize.value = line.sampleSize
  accept.value = line.accept
})
const problem = computed(() => {
  try {
    checkAdapted({ sampleSize: sampleSize.value, accept: sampleSize.value === 0 ? 0 : accept.value }, { lotSize: inspection.lotSize, answered })
    return ''
  } catch (error) {
    return error instanceof CoreError ? error.message : 'Write whole numbers.'
  }
})
/** Nonconforming pieces of the lot with which one lot in ten would still be accepted: the consumer's risk. */
const limiting = (n: number, ac: number) =>
  `${whole(Math.ceil(nonconformingAt({ sampleSize: n, accept: ac }, inspection.lotSize, 0.1)))} nonconforming of ${whole(inspection.lotSize)}`
const risk = computed(() => {
  const now = `With n ${line.sampleSize}, Ac ${line.accept} a lot with ${limiting(line.sampleSize, line.accept)} is still accepted one time in ten (consumer's risk)`
  return sampleSize.value === 0
    ? `${now}. Dropped, nothing is known of it.`
    : `${now}; with n ${sampleSize.value}, Ac ${accept.value} one with ${limiting(sampleSize.value, accept.value)}.`
})
async function save(): Promise<void> {
  if (problem.value !== '') return
  try {
    const body = {
      version: inspection.version,
      lineId: line.id,
      sampleSize: sampleSize.value,
      accept: sampleSize.value === 0 ? 0 : accept.value,
      reason: (reason.value ?? '').trim(),
    }
    emit('changed', await call(record.adaptLine, { params: { id: inspection.id }, body }))
    isOpen.value = false
  } catch (error) {
    failure.value = asFailure(error)
  }
}
</script>
