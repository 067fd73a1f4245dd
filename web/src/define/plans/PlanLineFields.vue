<template>
  <section class="workshop">
    <h2>{{ line.name }} · sampling</h2>
    <SamplingEditor v-model="line.sampling" :is-fixed="isFixed" :error="error" :characteristic-kind="line.kind" />
    <div class="row">
      <v-checkbox v-model="line.isRequired" label="has to be answered" :disabled="isFixed" data-field="isRequired" />
      <v-checkbox v-model="line.isDecisive" label="decisive: one nonconforming piece fails the lot" :disabled="isFixed" data-field="isDecisive" />
    </div>
    <div class="row wide">
      <v-text-field
        v-model="line.stage"
        label="Stage of the build"
        placeholder="before assembly"
        :readonly="isFixed"
        data-field="stage"
        style="max-width: 220px"
      />
      <v-text-field v-model="line.instruction" label="Instruction on this line only" :readonly="isFixed" data-field="lineInstruction" />
    </div>
    <div class="follow">
      <p class="small" :class="line.detached ? 'marginal' : 'soft'" data-test="follows">{{ followsWords }}</p>
      <v-btn v-if="canDetach && !line.detached" size="small" variant="outlined" data-test="detach" @click="detach">Detach, with its own limits</v-btn>
      <v-btn v-if="!isFixed && line.detached" size="small" variant="outlined" data-test="follow" @click="line.detached = null"
        >Follow the library again</v-btn
      >
    </div>
    <div v-if="line.detached" class="own">
      <v-text-field
        v-for="{ key, label } in sides"
        :key="key"
        v-model="line.detached[key]"
        :label="label"
        class="mono"
        :readonly="isFixed"
        :data-field="`own-${key}`"
      />
      <div>
        <p class="small soft">library above, this line below</p>
        <ToleranceStrip :limits="line" :width="220" />
        <ToleranceStrip v-if="ownLimits" :limits="ownLimits" :width="220" />
      </div>
    </div>
    <PartTargets v-if="canDetach || line.targets.length > 0" v-model="line.targets" :is-fixed="isFixed" :start="line.detached ?? line" />
  </section>
</template>

<script setup lang="ts">
import type { PlanLine } from '@nemawashi/contract'
import { parseDecimal } from '@nemawashi/core'
import { computed } from 'vue'
import type { Failure } from '../../shell/api'
import { limitsWords } from '../../format/format'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import PartTargets from '../masters/PartTargets.vue'
import SamplingEditor from '../sampling/SamplingEditor.vue'

/** One line of a plan: its sampling with the risk, whether it must be answered, and whether it follows the library or keeps its own limits. */
const { isFixed } = defineProps<{ isFixed: boolean; error: Failure | null }>()
const line = defineModel<PlanLine>({ required: true })
const sides = [
  { key: 'lower', label: 'Own lower limit' },
  { key: 'nominal', label: 'Own nominal' },
  { key: 'upper', label: 'Own upper limit' },
] as const
const canDetach = computed(() => !isFixed && line.value.kind === 'measured' && line.value.isAdaptable)
const followsWords = computed(() => {
  const { detached, followsRevision, isAdaptable, kind } = line.value
  if (detached)
    return `Detached from revision ${detached.fromRevision}: later revisions of the library do not change this line. The library says ${limitsWords(line.value)}.`
  if (followsRevision === null) return 'Its characteristic is still a draft; release it before the plan.'
  const must = kind === 'measured' && !isAdaptable ? ' It must be followed as it is.' : ''
  return `Follows the library: revision ${followsRevision} now, later ones by themselves.${must}`
})
function detach(): void {
  const { nominal, lower, upper, followsRevision } = line.value
  line.value.detached = { nominal, lower, upper, fromRevision: followsRevision ?? 1 }
}
const ownLimits = computed(() => {
  const { detached } = line.value
  if (!detached) return null
  try {
    const decimal = (text: string | null) => (text === null || text.trim() === '' ? null : parseDecimal(text))
    return { nominal: decimal(detached.nominal), lower: decimal(detached.lower), upper: decimal(detached.upper) }
  } catch {
    return null
  }
})
</script>

<style scoped>
.workshop {
  border: 1px solid var(--rule);
  padding: 14px 18px 8px;
}
.wide > * {
  flex: 1;
}
.follow {
  display: flex;
  gap: 14px;
  align-items: center;
}
.own {
  display: grid;
  grid-template-columns: repeat(3, 130px) 1fr;
  gap: 10px;
  align-items: start;
}
.own p {
  margin: 0;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
