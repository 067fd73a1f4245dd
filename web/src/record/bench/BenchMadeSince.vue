<template>
  <section v-if="run" class="since" aria-label="Made since the last conforming check" data-test="made-since">
    <h2 class="minor">In doubt: made since the last check that conformed</h2>
    <p class="small">
      <template v-if="run.lastGood"
        ><router-link class="m" :to="`/record/${run.lastGood.id}`">{{ run.lastGood.code }}</router-link> conformed, at
        <b class="m">{{ amount(run.since) }}</b> made ({{ momentOf(run.lastGood.finishedAt) }}). </template
      ><template v-else>No check of this step conformed before. </template> <b class="m">{{ amount(run.quantity) }}</b> went on since then,
      <span class="m">{{ amount(run.free) }}</span> are free on the line.
    </p>
    <p v-for="check in run.failed" :key="check.id" class="small">
      <router-link class="m" :to="`/record/${check.id}`">{{ check.code }}</router-link> failed at {{ amount(check.done)
      }}<template v-if="check.held > 0">, and held {{ amount(check.held) }}</template
      >.
    </p>
    <p v-if="run.serials.length > 0" class="small serials">
      <span class="m">{{ run.serials.slice(0, 12).join(', ') }}</span><template v-if="run.serials.length > 12">
        and {{ run.serials.length - 12 }} more</template
      >
    </p>
    <p v-if="run.lookFirst !== null" class="small" data-test="look-backwards">
      Look backwards: at piece <b class="m">{{ amount(run.lookFirst) }}</b> first. If it has not gone away by itself,
      {{ count(run.looks, 'look') }} at most find where it began.
    </p>
    <p v-if="run.held > 0" class="small held" data-test="made-held">
      <b class="m">{{ amount(run.held) }}</b> on hold for this check.
    </p>
    <ErrorNote :failure="saver.note.value" />
    <v-btn v-if="mayHold && run.toHold > 0" color="error" size="small" :loading="saver.isBusy.value" data-test="hold-made" @click="hold"
      >Hold {{ run.toHold === 1 ? 'it' : `these ${amount(run.toHold)}` }}</v-btn
    >
  </section>
</template>

<script setup lang="ts">
import { quantityText } from '@nemawashi/core'
import { record, type Inspection } from '@nemawashi/contract'
import { computed } from 'vue'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import ErrorNote from '../../components/ErrorNote.vue'
import { useSaver } from '../../composables/useSaver'
import { count, momentOf } from '../../format/format'

/** What a nonconforming piece of a run puts in doubt, before it is held: how much, which, and where to look backwards. */
const { inspection } = defineProps<{ inspection: Inspection; mayHold: boolean }>()
const emit = defineEmits<{ held: [] }>()
const saver = useSaver()
const { data, put } = useThing(
  () => record.getMadeSince,
  () => ({ params: { id: inspection.id } }),
)
const run = computed(() => data.value?.run ?? null)
const amount = (quantity: number) => quantityText(quantity, inspection.unit)

async function hold(): Promise<void> {
  await saver.save(async () => {
    const held = await call(record.holdMadeSince, { params: { id: inspection.id } })
    put(held)
    emit('held')
    notify(`${amount(held.run?.held ?? 0)} on hold.`)
  })
}
</script>

<style scoped>
.since {
  border-left: 3px solid var(--nonconforming);
  padding: 2px 0 2px 12px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  align-items: flex-start;
}
.since p,
.since h2 {
  margin: 0;
}
.serials {
  overflow-wrap: anywhere;
}
.held {
  color: var(--hold);
}
</style>
