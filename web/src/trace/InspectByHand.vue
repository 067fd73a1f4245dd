<template>
  <section class="hand stack" aria-labelledby="hand-title">
    <h2 id="hand-title" class="small soft">Inspect by hand</h2>
    <form class="stack" @submit.prevent="open">
      <div class="row top">
        <PickOne
          v-model="planId"
          class="grow"
          :endpoint="define.listPlans"
          :query="{ state: 'released' }"
          label="Inspection plan"
          :error="errors['planId']"
          is-needed
          field="handPlan"
        />
        <v-select
          v-model="operationId"
          class="grow"
          :items="operations"
          label="Operation"
          :error-messages="errors['operationId']"
          data-field="handOperation"
        />
        <v-select v-if="units.length > 1" v-model="containerId" class="grow" :items="units" label="Which pieces" data-field="handUnit" />
      </div>
      <p v-if="asked.length > 0" class="small" data-test="hand-asks">
        Of {{ amount(size, unit) }} it asks for <template v-for="(line, i) in asked" :key="i">{{ i > 0 ? '; ' : '' }}{{ line }}</template
        >.
      </p>
      <div class="row top">
        <v-text-field
          v-model="reason"
          class="grow"
          label="Why (three letters or more)"
          :error-messages="errors['reason']"
          aria-required="true"
          data-field="handReason"
        />
        <v-checkbox v-model="isHolding" label="Hold its free pieces until the decision" hide-details density="compact" data-field="handHolds" />
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!planId || !operationId" data-test="hand-open">Open it</v-btn>
        <v-btn variant="text" @click="emit('closed')">Close</v-btn>
      </div>
      <ErrorNote :failure="saver.note.value" />
    </form>
  </section>
</template>

<script setup lang="ts">
import { countedOf, sampleFor, standingsToInspect, type SamplingRule, samplingUnitsIn } from '@nemawashi/core'
import { type BalanceRow, type Operation, type Part, define, record } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../shell/api'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import ErrorNote from '../components/ErrorNote.vue'
import { amount } from '../format/format'
import PickOne from '../components/PickOne.vue'
import { unitChoices } from '../format/unitChoices'
import { useSaver } from '../composables/useSaver'

/** Opens an inspection that no control point asks for, of the lot or of one of its containers or serial numbers; what it will ask is said before. */
const { lotId, partId, balances, unit } = defineProps<{
  lotId: string
  partId: string
  balances: readonly BalanceRow[]
  unit: string
}>()
const emit = defineEmits<{ closed: [] }>()
const router = useRouter()
const saver = useSaver()
const errors = saver.fieldErrors
const planId = ref<string | null>(null)
const operationId = ref<string | null>(null)
const containerId = ref<string | null>(null)
const isHolding = ref(false)
const reason = ref('')

const { data: part } = useThing(define.parts.get, () => ({ params: { id: partId } }))
const { data: known } = useThing(define.operations.list, () => ({ query: { limit: 200 } }))
/** Operations that the part passes come first, in its order. */
const operations = computed(() => {
  const way = (part.value as Part | null)?.operationIds ?? []
  const rank = ({ id }: { id: string }) => (way.includes(id) ? way.indexOf(id) : way.length)
  const rows = [...((known.value?.rows ?? []) as Operation[])].sort((a, b) => rank(a) - rank(b))
  return rows.map(({ id, code, name }) => ({ value: id, title: `${code} · ${name}` }))
})
watch(operations, (all) => (operationId.value ??= all[0]?.value ?? null))
const here = computed(() => balances.filter(({ standing }) => standingsToInspect.includes(standing)))
const units = computed(() => unitChoices(here.value))
const size = computed(() =>
  here.value.filter((spot) => containerId.value === null || spot.containerId === containerId.value).reduce((sum, { quantity }) => sum + quantity, 0),
)
const { data: plan } = useThing(define.getPlan, () => (planId.value === null ? null : { params: { id: planId.value } }))
/** The samples that its released revision takes of so many pieces. */
const asked = computed(() => {
  const lines = planId.value === null ? [] : (plan.value?.revisions.find(({ state }) => state === 'released')?.lines ?? [])
  return size.value === 0 ? [] : lines.map((line) => `${line.name} ${sampleWords(line)}`)
})
function sampleWords({ sampling, kind }: { sampling: unknown; kind: Parameters<typeof countedOf>[0] }): string {
  try {
    const { sampleSize, accept } = sampleFor(sampling as SamplingRule, samplingUnitsIn(size.value, unit), countedOf(kind))
    return `n ${sampleSize}, Ac ${accept}`
  } catch {
    return 'by its own rule'
  }
}

async function open(): Promise<void> {
  const body = {
    planId: planId.value ?? '',
    operationId: operationId.value ?? '',
    containerId: containerId.value,
    isHolding: isHolding.value,
    reason: reason.value,
  }
  const done = await saver.save(async () => {
    const { id, code } = await call(record.openByHand, { params: { id: lotId }, body })
    notify(`${code} is open${isHolding.value ? ', and its pieces wait for the decision' : ''}.`)
    await router.push(`/record/${id}`)
  })
  if (done) emit('closed')
}
</script>

<style scoped>
.hand {
  border-left: 4px solid var(--rule);
  padding: 2px 12px;
}
.hand h2,
.hand p {
  margin: 0;
}
</style>
