<template>
  <section class="stack">
    <div>
      <v-btn variant="text" size="small" :loading="isAsking" data-test="todays-rules" @click="askNow">{{
        preview ? 'Ask again' : 'What would today’s rules ask of it?'
      }}</v-btn>
    </div>
    <ErrorNote :failure="failure" />
    <div v-if="preview" data-test="under-todays-rules">
      <p class="small soft">
        Played as if it came now, without writing anything. The histories are those of today{{
          lots.length > most ? `; the first ${most} of ${lots.length} lots` : ''
        }}.
      </p>
      <template v-if="preview.load.length > 0">
        <h3>The load</h3>
        <LineAsks :asked="preview.load" about="load" />
      </template>
      <template v-for="(line, i) in preview.lines" :key="lots[i]?.id">
        <h3>
          {{ lots[i]?.partCode }} <span class="m soft">{{ lots[i]?.code }}</span>
        </h3>
        <LineAsks :asked="line.asked" about="line" :place-name="line.placeName" :place-if-drawn="line.placeIfDrawn" />
      </template>
    </div>
  </section>
</template>

<script setup lang="ts">
import { type Delivery, type ReplyOf, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { asFailure, call, type Failure } from '../../shell/api'
import ErrorNote from '../../components/ErrorNote.vue'
import LineAsks from './LineAsks.vue'

/** A past delivery under the rules of today: what would open now, beside what opened then. */
const { delivery } = defineProps<{ delivery: Delivery }>()
/** As many lines as one preview takes. */
const most = 50
const lots = computed(() => delivery.lots.filter(({ quantity }) => quantity > 0))
const preview = ref<ReplyOf<typeof run.previewDelivery> | null>(null)
const failure = ref<Failure | null>(null)
const isAsking = ref(false)
async function askNow(): Promise<void> {
  isAsking.value = true
  failure.value = null
  try {
    const lines = lots.value.slice(0, most).map(({ partId, quantity }) => ({ partId, quantity }))
    preview.value = await call(run.previewDelivery, { body: { supplierId: delivery.supplierId, lines } })
  } catch (error) {
    failure.value = asFailure(error)
  } finally {
    isAsking.value = false
  }
}
</script>
