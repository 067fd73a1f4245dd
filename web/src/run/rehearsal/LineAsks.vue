<template>
  <div class="asks small" data-test="asks">
    <p v-for="{ pointId, planName, due, isByChance, subject, times, isGate, answeredAt, lines } in asked" :key="pointId">
      <template v-if="due.isDue">
        <span v-if="isByChance" class="soft">perhaps </span><b :class="isGate ? 'hold' : ''">{{ planName }}</b>
        <span v-if="isUnitKind(subject)" class="soft">{{ times }} ×, {{ subjectWords[subject] }}&ensp;</span
        ><span v-if="isGate" class="hold">gate</span><span v-if="answeredAt === 'spot'" class="soft"> answered here</span>
        <span v-if="isByChance" class="soft" data-test="by-chance"> · by chance, {{ shareOf(due) }} of the arrivals: drawn when it comes</span>
        <span v-for="line in lines" :key="line.name">
          · {{ line.name }} <span v-if="line.askedBy" class="soft">asked with {{ line.askedBy }}</span
          ><b v-else class="m">n {{ line.sampleSize }}, Ac {{ line.accept }}</b></span
        >
      </template>
      <span v-else class="soft">– {{ planName }}: not looked at, {{ describeDue(due) }}</span>
    </p>
    <p v-if="asked.length === 0" class="soft">Nothing is asked{{ about === 'load' ? ' of the load' : ': it may be put away at once' }}.</p>
    <p v-if="placeName !== null">
      <b>Take it to {{ placeName }}</b
      ><template v-if="placeIfDrawn !== null"
        >, or to <b>{{ placeIfDrawn }}</b> if it is drawn</template
      >.
    </p>
  </div>
</template>

<script setup lang="ts">
import { isUnitKind, describeDue, subjectWords } from '@nemawashi/core'
import type { AskedLine, Due } from '@nemawashi/contract'

/** What a line of a delivery, or its load, asks for before it is booked in, and where it is to be taken. */
const { placeName = null, placeIfDrawn = null } = defineProps<{
  asked: readonly AskedLine[]
  about: 'line' | 'load'
  placeName?: string | null
  placeIfDrawn?: string | null
}>()
const shareOf = ({ because }: Due) => (because.kind === 'drawn' ? `${because.percent} %` : '')
</script>

<style scoped>
.asks {
  border-left: 4px solid var(--rule);
  padding: 2px 12px;
}
.asks p {
  margin: 2px 0;
}
</style>
