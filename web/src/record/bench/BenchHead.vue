<template>
  <header>
    <h1>
      {{ line.name }} <span class="soft">· {{ placeWords }}</span>
    </h1>
    <RichText v-if="line.instruction" :text="line.instruction" class="soft told" />
    <p v-if="howWords" class="soft" :class="{ small: line.instruction }" data-test="how">{{ howWords }}</p>
    <p v-if="line.samplingReasoning" class="soft small" data-test="sampling">{{ line.samplingReasoning }}</p>
    <p v-if="line.alsoFor.length > 0" class="small" data-test="also-for">
      Asked once, also for {{ line.alsoFor.map(({ planName, sampleSize }) => `${planName} (n ${sampleSize})`).join(', ') }}.
    </p>
    <p v-if="line.adaptedFrom" class="small marginal" data-test="adapted">
      Sample changed from n {{ line.adaptedFrom.sampleSize }}, Ac {{ line.adaptedFrom.accept }} by {{ line.adaptedFrom.byName }}:
      {{ line.adaptedFrom.reason }}
    </p>
    <v-btn v-if="mayAdapt" class="adapt" variant="text" size="small" data-test="adapt" @click="isAdapting = true">Change the sample …</v-btn>
    <DocumentShelf v-if="line.details.documentIds.length > 0" :key="line.id" :ids="line.details.documentIds" @closed="emit('closed')" />
    <AdaptDialog v-if="mayAdapt" v-model="isAdapting" :inspection="inspection" :line="line" :answered="answered" @changed="emit('adapted', $event)" />
  </header>
</template>

<script setup lang="ts">
import type { Inspection, InspectionLine } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import DocumentShelf from '../../components/DocumentShelf.vue'
import RichText from '../../components/RichText.vue'
import AdaptDialog from './AdaptDialog.vue'
import { cellKey, type Answer } from '../entry/cells'

/** The line that is being answered: what and how, how its sample came about, and the way to change it where that is allowed. */
const { line, piece, asked, cells } = defineProps<{
  inspection: Inspection
  line: InspectionLine
  piece: number
  /** Pieces that are asked now: of a staged plan those of the stages so far. */
  asked: number
  cells: ReadonlyMap<string, Answer>
  mayAdapt: boolean
}>()
const emit = defineEmits<{ adapted: [changed: Inspection]; closed: [] }>()
const isAdapting = ref(false)
/** The last piece of the line that has an answer: no sample can be smaller. */
const answered = computed(() => {
  const pieces = Array.from({ length: line.sampleSize }, (_, i) => i + 1)
  return pieces.findLast((number) => cells.get(cellKey(line.id, number))?.value != null) ?? 0
})
/** How, and with what kind of gauge: beside the instruction, which says more of both or nothing. */
const howWords = computed(() => [line.method, line.details.gaugeKind].filter(Boolean).join(' · '))
/** `piece 3 of 20`, `stage 2, piece 9 of 16`, `one summary of 50 pieces`. */
const placeWords = computed(() => {
  if (line.details.recording === 'summary') return `one summary of ${line.sampleSize} pieces`
  let end = 0
  const stage = line.stages && line.stages.length > 1 ? line.stages.findIndex((stage) => (end += stage.sampleSize) >= piece) + 1 : 0
  return `${stage > 0 ? `stage ${stage}, ` : ''}piece ${piece} of ${asked}`
})
</script>

<style scoped>
header p {
  margin: 2px 0 0;
}
.adapt {
  margin-left: -12px;
}
</style>
