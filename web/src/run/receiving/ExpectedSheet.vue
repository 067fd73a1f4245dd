<template>
  <div v-if="expected" class="sheet stack">
    <div class="row">
      <h1 class="grow">
        {{ expected.code }} <span class="soft">· {{ expected.supplierName }}, order {{ expected.orderNumber }}</span>
      </h1>
      <b :class="stateClass" data-test="state">{{ expectedStateWords[expected.state] }}</b>
    </div>
    <p class="soft">{{ story }}</p>
    <ErrorNote :failure="saver.failure.value" />
    <p v-if="expected.state === 'received'">
      Its receipt is posted: <router-link :to="`/run/${expected.id}`" data-test="delivery">where its pieces stand and what holds them</router-link>.
    </p>
    <div v-else-if="expected.state === 'turnedAway'" class="note"><b>Refused:</b> {{ expected.reason }}</div>
    <div v-else-if="expected.gateReasons.length > 0" class="note" data-test="gate">
      <b class="hold">Its receipt waits.</b> {{ expected.gateReasons.join('; ') }}.
    </div>
    <form v-if="isRegistering" class="stack" data-test="register-form" @submit.prevent="register">
      <LoadFields v-model="load" :errors="saver.fieldErrors.value" />
      <div class="row">
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value">It is at the dock</v-btn>
        <v-btn variant="text" @click="isRegistering = false">Close</v-btn>
      </div>
    </form>
    <div v-else-if="mayAct && isToCome" class="row">
      <v-btn v-if="expected.state === 'announced'" :color="main === 'register' ? 'primary' : undefined" data-test="register" @click="begin"
        >Register at the dock</v-btn
      >
      <v-btn
        :color="main === 'receive' ? 'primary' : undefined"
        :variant="main === 'receive' ? 'flat' : 'text'"
        :disabled="expected.gateReasons.length > 0"
        :to="`/run/new?expected=${expected.id}`"
        data-test="receive"
        >Book it in</v-btn
      >
      <v-btn variant="text" data-test="turn-away" @click="refuseDelivery">Refuse delivery</v-btn>
    </div>
    <section>
      <h2>Goods</h2>
      <table class="plain" data-test="lines">
        <thead>
          <tr>
            <th>Part</th>
            <th>Supplier's lot</th>
            <th class="right">Announced</th>
            <th v-if="expected.state === 'received'" class="right">Came</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in expected.lines" :key="line.id">
            <td>
              <router-link :to="`/attach/${line.partId}`">{{ line.partCode }}</router-link> {{ line.partName }}
            </td>
            <td class="m">{{ line.supplierLot || '–' }}</td>
            <td class="right m">{{ amount(line.quantity, line.unit) }}</td>
            <td v-if="line.came !== null" class="right m" :class="line.came === line.quantity ? '' : 'marginal'" data-test="came">
              {{ line.came === line.quantity ? '' : '△ ' }}{{ amount(line.came, line.unit) }}
            </td>
          </tr>
          <tr v-for="(line, i) in expected.alsoCame" :key="i" class="marginal" data-test="also-came">
            <td>
              <router-link :to="`/attach/${line.partId}`">{{ line.partCode }}</router-link> {{ line.partName }}
            </td>
            <td />
            <td class="right">△ not announced</td>
            <td class="right m">{{ amount(line.quantity, line.unit) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section v-if="expected.load.inspections.length > 0" data-test="load">
      <h2>Asked of the load</h2>
      <AskedTable :inspections="expected.load.inspections" />
    </section>
    <p v-else class="soft">
      Nothing is asked of its load before the receipt. A control point at receiving with the moment "when it is announced" or "when the vehicle is
      registered at the dock" would ask.
    </p>
  </div>
  <EmptyState v-else title="Expected delivery" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { expectedTransitions, expectedStateWords, canTransition } from '@nemawashi/core'
import { type ExpectedDelivery, type LoadFacts, loadFactsOf, noLoad, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { call } from '../../shell/api'
import { ask } from '../../shell/ask'
import { useCrumbs } from '../../shell/crumbs'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { amount, dayWords, momentOf } from '../../format/format'
import { useActs } from '../../composables/useActs'
import AskedTable from '../rehearsal/AskedTable.vue'
import LoadFields from './LoadFields.vue'
import { describeLoad } from './loadWords'

/** A delivery before its receipt: what is to come, what is asked of its load, and what can be done with it. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const mayAct = useSession().may(run.register)
const { data: expected, failure, put, reload } = useThing(run.getExpected, () => ({ params: { id } }))
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Expected', to: '/run/expected' }, { words: expected.value?.code ?? '…' }])
const { saver, act } = useActs<ExpectedDelivery>({ put, reload, changed: () => emit('changed') })
const isToCome = computed(() => expected.value !== undefined && canTransition(expectedTransitions, 'receive', expected.value.state))
/** The step that comes next. */
const main = computed(() => (expected.value?.state === 'announced' ? 'register' : 'receive'))
const stateClass = computed(() => {
  const { state, gateReasons } = expected.value as ExpectedDelivery
  return state === 'turnedAway' ? 'nonconforming' : isToCome.value && gateReasons.length > 0 ? 'hold' : state === 'received' ? 'conforming' : 'soft'
})
const story = computed(() => {
  const current = expected.value as ExpectedDelivery
  const parts = [
    current.announcedAt === null ? 'Not announced' : `Announced ${momentOf(current.announcedAt)} by ${current.announcedByName}`,
    ...(current.expectedOn === null ? [] : [`expected ${dayWords(current.expectedOn)}`]),
    ...(current.registeredAt === null ? [] : [`at the dock ${momentOf(current.registeredAt)}, by ${current.registeredByName}`]),
    ...(describeLoad(current.load) === '' ? [] : [describeLoad(current.load)]),
  ]
  return parts.join(' · ')
})
const isRegistering = ref(false)
const load = ref<LoadFacts>({ ...noLoad })
function begin(): void {
  load.value = loadFactsOf((expected.value as ExpectedDelivery).load)
  isRegistering.value = true
}
const version = () => expected.value?.version ?? 1
async function register(): Promise<void> {
  const body = { version: version(), load: load.value }
  const done = await act(
    () => call(run.register, { params: { id }, body }),
    ({ code }) => `${code} is at the dock.`,
  )
  if (done) isRegistering.value = false
}
async function refuseDelivery(): Promise<void> {
  const reason = await ask({
    title: `Turn ${expected.value?.code} away?`,
    text: 'It goes back as it came, and is not received any more. What is open of its load is cancelled.',
    yes: 'Refuse delivery',
    needsReason: true,
  })
  if (reason !== null)
    await act(
      () => call(run.refuseDelivery, { params: { id }, body: { version: version(), reason } }),
      ({ code }) => `${code} is refused.`,
    )
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.note {
  border-left: 4px solid var(--hold);
  padding: 6px 12px;
  background: var(--paper);
}
</style>
