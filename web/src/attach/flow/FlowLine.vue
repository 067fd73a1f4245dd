<template>
  <div class="flow" role="list" aria-label="Operations of the part, in order">
    <div
      v-for="stop in flow.stops"
      :key="stop.operationId"
      class="stop"
      role="listitem"
      :data-stop="stop.operationId"
      @dragover.prevent
      @drop.prevent="drop($event, stop)"
    >
      <b>{{ stop.name }}</b>
      <span class="soft small">{{ stop.code }}</span>
      <button
        v-if="canAttach"
        type="button"
        class="ring"
        :class="{ bare: stop.points.length === 0 && !stop.leftOpen }"
        :aria-label="`${stop.name}: attach a plan`"
        @click="emit('attach', stop.operationId, null)"
      />
      <span v-else class="ring" aria-hidden="true" />
      <button
        v-for="point in byMoment(stop)"
        :key="point.id"
        type="button"
        class="tag"
        :class="{ on: point.id === selectedId, sleeping: !point.opens, broken: point.planState !== 'released' }"
        :aria-pressed="point.id === selectedId"
        @click="emit('choose', point)"
      >
        <span class="row"
          ><b class="grow">{{ point.planName }}</b
          ><span v-if="point.isGate" class="hold gate">gate</span></span
        >
        <span v-for="line in point.lines" :key="line.characteristicId" class="small">{{ line.name }}: {{ describeSamplingRule(line.sampling) }}</span>
        <span v-if="point.subject !== 'lot'" class="soft small">looks at {{ subjectWords[point.subject] }}</span>
        <span v-if="point.isGate && point.holds === 'sample'" class="soft small">holds the sample only</span>
        <span v-if="stop.kind === 'production' || point.moment !== momentsOf[stop.kind][0]" class="soft small">{{
          describeMoment(point.moment, point.every)
        }}</span>
        <span v-for="follows in followsWords(point)" :key="follows" class="soft small">{{ follows }}</span>
        <span v-if="point.frequency.kind !== 'everyArrival'" class="small">{{ describeFrequencyRule(point.frequency, comesAs(stop.kind)) }}</span>
        <span class="soft small">{{ reachOf(point) }}</span>
        <span v-if="point.isInForce && describeValidity(point)" class="soft small">in force {{ describeValidity(point) }}</span>
        <span class="small" :class="point.opens ? 'conforming' : 'soft'">{{ point.opens ? 'opens' : 'does not open' }}: {{ point.why }}</span>
        <span v-if="point.planState !== 'released'" class="nonconforming small"
          >its plan is {{ point.planState }}: {{ stop.kind === 'receiving' ? 'deliveries are' : 'the step is' }} refused</span
        >
      </button>
      <span v-for="gap in stop.gaps" :key="`${gap.planCode} ${gap.from}`" class="marginal small" data-test="gap"
        >△ nobody asks {{ gap.planCode }} {{ describeValidity({ validFrom: gap.from, validUntil: gap.until }) }}</span
      >
      <div v-if="stop.points.length === 0 && stop.leftOpen" class="tag open small" data-test="left-open">
        <span><b>Not controlled:</b> {{ stop.leftOpen.reason }}</span>
        <span class="soft">{{ stop.leftOpen.byName }}, {{ dayOf(stop.leftOpen.at) }}</span>
        <button
          v-if="canAttach"
          type="button"
          class="plain"
          :aria-label="`${stop.name}: no longer noted as not controlled`"
          @click="emit('leave', stop, false)"
        >
          Remove this note
        </button>
      </div>
      <div v-else-if="stop.points.length === 0" class="tag empty small">
        <span>Nothing is checked here. {{ canAttach ? 'Press A, or the ring, to attach a plan, or' : '' }}</span>
        <button
          v-if="canAttach"
          type="button"
          class="plain"
          data-test="leave-open"
          :aria-label="`${stop.name}: not controlled, because …`"
          @click="emit('leave', stop, true)"
        >
          not controlled, because …
        </button>
      </div>
    </div>
  </div>
</template>

<script setup lang="ts">
import {
  comesAs,
  describeFrequencyRule,
  describeSamplingRule,
  moments,
  momentsOf,
  describeMoment,
  describeValidity,
  subjectWords,
} from '@nemawashi/core'
import type { Flow, FlowPoint } from '@nemawashi/contract'
import { dayOf } from '../../format/format'
import { followsWords } from '../rehearsal/followsWords'

/** The part's operations as stops on one line; control points hang below their stop and say what is checked, how many, and whether it is a gate. */
defineProps<{ flow: Flow; selectedId: string | null; canAttach: boolean }>()
const emit = defineEmits<{
  choose: [point: FlowPoint]
  attach: [operationId: string, planId: string | null]
  /** Somebody wants to say why nothing is checked at a stop, or to take that back. */
  leave: [stop: Flow['stops'][number], isLeft: boolean]
}>()
function reachOf({ partCode, familyName, supplierName, customerName, supplierGroup, contract }: FlowPoint): string {
  const goods = partCode ?? (familyName === null ? 'every part' : `family ${familyName}`)
  const group = supplierGroup === null ? null : `group ${supplierGroup}`
  return [goods, supplierName, customerName, group, contract === null ? null : `contract ${contract}`].filter(Boolean).join(', ')
}
/** What asks earlier stands above what asks later. */
const byMoment = ({ points }: Flow['stops'][number]) => points.toSorted((a, b) => moments.indexOf(a.moment) - moments.indexOf(b.moment))
function drop(event: DragEvent, stop: Flow['stops'][number]): void {
  const planId = event.dataTransfer?.getData('text/plan')
  if (planId) emit('attach', stop.operationId, planId)
}
</script>

<style scoped>
.flow {
  display: flex;
  gap: 10px;
  overflow-x: auto;
  padding: 16px 0;
}
.stop {
  flex: 1 1 110px;
  min-width: 100px;
  display: flex;
  flex-direction: column;
  align-items: center;
  text-align: center;
  position: relative;
}
.stop:has(.tag) {
  flex-basis: 168px;
  min-width: 118px;
}
.stop:has(.tag.empty) {
  flex-basis: 130px;
  min-width: 110px;
}
/* Two lines for every name, so that the rings stand on one line. */
.stop > b {
  display: flex;
  align-items: end;
  min-height: 40px;
  line-height: 20px;
}
.ring {
  width: 22px;
  height: 22px;
  border-radius: 50%;
  border: 5px solid var(--ink);
  background: var(--sheet);
  margin: 8px 0 14px;
  padding: 0;
  z-index: 1;
}
button.ring {
  cursor: pointer;
  border-color: var(--indigo);
}
.ring.bare {
  border: 3px dashed var(--marginal);
}
.stop::before {
  content: '';
  position: absolute;
  top: 76px;
  left: -10px;
  right: 0;
  height: 6px;
  background: var(--ink);
}
.stop:first-child::before {
  left: 50%;
}
.stop:last-child::before {
  right: 50%;
}
.stop:only-child::before {
  display: none;
}
.tag {
  width: 100%;
  display: flex;
  flex-direction: column;
  gap: 3px;
  text-align: left;
  border: 1px solid var(--rule);
  border-left: 4px solid var(--indigo);
  background: var(--paper);
  color: var(--ink);
  font: inherit;
  border-radius: 4px;
  padding: 8px 10px;
  margin-bottom: 8px;
  cursor: pointer;
}
.tag.on {
  background: var(--wash);
  border-color: var(--indigo);
}
.tag.sleeping {
  border-left-color: var(--rule);
}
.tag.broken {
  border-left-color: var(--nonconforming);
}
.tag.empty {
  border: 1px dashed var(--marginal);
  cursor: default;
}
.tag.open {
  border-left-color: var(--rule);
  cursor: default;
}
.plain {
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  color: var(--indigo);
  font: 600 13px var(--words);
  cursor: pointer;
}
.gate {
  font-weight: 600;
}
</style>
