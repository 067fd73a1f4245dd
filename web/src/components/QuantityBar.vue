<template>
  <div>
    <div
      class="bar"
      role="img"
      :aria-label="`${parts.map((part) => `${figureOf(part.quantity, unit)} ${part.words}`).join(', ')}; together ${amount(together, unit)}`"
    >
      <span v-for="part in parts" :key="part.standing" :style="{ flexGrow: part.quantity, background: standingColours[part.standing] }">
        <span v-if="part.quantity / together > 0.16" class="m"
          >{{ figureOf(part.quantity, unit) }}<span class="printed">{{ part.words }}</span></span
        >
      </span>
    </div>
    <div class="legend small">
      <span v-for="part in parts" :key="part.standing"
        ><i :style="{ background: standingColours[part.standing] }" />{{ figureOf(part.quantity, unit) }} {{ part.words }}</span
      >
      <span class="soft together"
        >together <b>{{ amount(together, unit) }}</b>{{
          arrived === undefined
            ? ''
            : together === arrived
              ? `, as ${isMade ? 'ordered' : 'received'}`
              : isMade
                ? ` of ${figureOf(arrived, unit)} ordered`
                : `, received were ${figureOf(arrived, unit)}`
        }}</span
      >
    </div>
  </div>
</template>

<script setup lang="ts">
import { quantityByStanding, standings, standingWords, type Standing } from '@nemawashi/core'
import { computed } from 'vue'
import { amount, figureOf } from '../format/format'
import { standingColours } from '../format/standingColours'

/** One bar for one lot, split by where its pieces stand now. It always adds up to what arrived; the number stands beside it. */
const { balances, unit, arrived, isMade } = defineProps<{
  balances: readonly { standing: Standing; quantity: number }[]
  unit: string
  arrived?: number
  /** The plant made it: what came is what was ordered. */
  isMade?: boolean
}>()

const parts = computed(() => {
  const sums = quantityByStanding(balances)
  return standings
    .filter((standing) => sums[standing] > 0)
    .map((standing) => ({ standing, quantity: sums[standing], words: standingWords[standing] }))
})
const together = computed(() => parts.value.reduce((sum, part) => sum + part.quantity, 0))
</script>

<style scoped>
.bar {
  display: flex;
  height: 24px;
  border: 1px solid var(--rule);
  color: #fff;
}
.bar > span {
  flex-basis: 0;
  min-width: 3px;
  display: grid;
  place-items: center;
  overflow: hidden;
  font-size: 13px;
  font-weight: 600;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin-top: 5px;
}
.legend i {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 6px;
}
.together {
  margin-left: auto;
}
.printed {
  display: none;
}
/* On paper the shares are told apart by their words, whatever the printer does with colours. */
@media print {
  .bar {
    border-color: #000;
    color: #000;
  }
  .bar > span {
    background: none !important;
    border-right: 1px solid #000;
    white-space: nowrap;
  }
  .bar > span:last-child {
    border-right: 0;
  }
  .printed {
    display: inline;
    margin-left: 0.6ch;
  }
}
</style>
