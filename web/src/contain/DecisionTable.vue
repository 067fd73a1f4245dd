<template>
  <section :aria-label="title" class="stack">
    <div class="row top">
      <div class="grow">
        <h2>{{ title }}</h2>
        <p class="soft small">
          Signed {{ momentOf(decision.signedAt) }} by {{ decision.signedByName
          }}<template v-if="decision.inspectionCode"> on {{ decision.inspectionCode }}</template>
        </p>
      </div>
      <SealStamp :initials="decision.initials" :meaning="sealWords[decision.meaning]" :signed-at="decision.signedAt" :size="66" />
    </div>
    <table v-if="decision.rows.length > 0" class="plain" :aria-label="`Rows of: ${title}`">
      <thead>
        <tr>
          <th>container</th>
          <th class="right">quantity</th>
          <th>was</th>
          <th>decided</th>
          <th>reason</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in decision.rows" :key="i">
          <td class="m">{{ row.containerLabel ?? 'loose' }}</td>
          <td class="right m">{{ figureOf(row.quantity, unit) }}</td>
          <td class="soft">{{ row.standing === null ? 'on hold' : `${standingWords[row.standing]}, ${row.placeName}` }}</td>
          <td>{{ dispositionWords[row.disposition] }}</td>
          <td class="soft">{{ row.reason }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">Nothing was held: the finding is noted.</p>
  </section>
</template>

<script setup lang="ts">
import { dispositionWords, sealWords, standingWords } from '@nemawashi/core'
import type { Decision } from '@nemawashi/contract'
import { computed } from 'vue'
import { figureOf, momentOf } from '../format/format'
import SealStamp from '../components/SealStamp.vue'

/** One signed decision, quantity by quantity, with its seal. */
const { decision } = defineProps<{ decision: Decision; unit: string }>()
const title = computed(() => (decision.followsId === null ? 'The decision' : 'Decided anew'))
</script>

<style scoped>
p {
  margin: 0;
}
</style>
