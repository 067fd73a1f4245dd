<template>
  <div v-if="passport && known" class="sheet stack">
    <h1>
      {{ passport.lot.code }} <span class="soft">· {{ passport.lot.partCode }} {{ passport.lot.partName }}</span>
    </h1>
    <p class="soft">
      <OriginLine :origin="passport.lot" /> ·
      <router-link :to="`/trace/${id}`">passport</router-link>
    </p>
    <QuantityBar
      :balances="passport.balances"
      :unit="passport.lot.unit"
      :arrived="passport.lot.quantity"
      :is-made="passport.lot.originKind === 'orderReleased'"
    />
    <DecisionTable v-for="decision in known.decisions" :key="decision.id" :decision="decision" :unit="passport?.lot.unit ?? 'piece'" />
    <AgainForm
      v-if="isManager"
      :key="last?.id ?? 'first'"
      :lot-id="id"
      :lot-code="passport.lot.code"
      :part-words="`${passport.lot.partCode} ${passport.lot.partName}`"
      :unit="passport.lot.unit"
      :balances="passport.balances"
      :before="last"
      :failed="known.failed"
      :is-made="passport.lot.originKind !== 'delivery'"
      @decided="decided"
      @stale="reload"
    />
    <p v-else-if="last" class="soft">A quality manager can decide anew on what is still in the plant.</p>
    <p v-else class="soft">Nothing was decided on this lot yet; a quality manager can decide on any of its pieces.</p>
  </div>
  <EmptyState v-else title="Lot" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { contain, trace } from '@nemawashi/contract'
import { computed } from 'vue'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import EmptyState from '../components/EmptyState.vue'
import OriginLine from '../components/OriginLine.vue'
import QuantityBar from '../components/QuantityBar.vue'
import AgainForm from './AgainForm.vue'
import DecisionTable from './DecisionTable.vue'

/** Every decision on a lot, one after the other, and the next one. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ decided: [] }>()
const isManager = useSession().may(contain.decideAgain)
const { data: passport, failure, reload: reloadLot } = useThing(trace.getPassport, () => ({ params: { id } }))
const { data: known, reload: reloadDecisions } = useThing(contain.listDecisions, () => ({ params: { id } }))
const last = computed(() => known.value?.decisions.at(-1) ?? null)
async function reload(): Promise<void> {
  await Promise.all([reloadLot(), reloadDecisions()])
}
async function decided(): Promise<void> {
  const isFirst = last.value === null
  await reload()
  emit('decided')
  notify(isFirst ? 'Decided and sealed.' : 'Decided anew and sealed.')
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
p {
  margin: 0;
}
</style>
