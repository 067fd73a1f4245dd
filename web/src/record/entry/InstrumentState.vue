<template>
  <span class="instrument" :class="{ off: words.isOff }" data-test="instrument">
    <span class="dot" aria-hidden="true"></span>{{ words.text }}
    <button v-if="listening?.replacedBy" type="button" class="link" data-test="listen-again" @click="emit('listen')">Listen here</button>
  </span>
</template>

<script setup lang="ts">
import { silentAfterMs } from '@nemawashi/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { momentOf } from '../../format/format'
import type { Listening } from './useInstruments'

/** Whether the instrument in hand would be heard, before anybody presses it. */
const { listening } = defineProps<{ listening: Listening | null }>()
const emit = defineEmits<{ listen: [] }>()
const now = ref(Date.now())
const ticking = setInterval(() => (now.value = Date.now()), 5_000)
onBeforeUnmount(() => clearInterval(ticking))
const words = computed(() => {
  if (listening === null || !listening.isOpen) return { isOff: true, text: 'The server is not reached; nothing that it sends is heard.' }
  if (listening.replacedBy) return { isOff: true, text: `Heard elsewhere now (${listening.replacedBy}).` }
  if (listening.heardAtMs === null) return { isOff: true, text: 'It sends its values, and is not connected.' }
  if (now.value - listening.heardAtMs > silentAfterMs)
    return { isOff: true, text: `Silent since ${momentOf(new Date(listening.heardAtMs).toISOString())}.` }
  return { isOff: false, text: 'Connected: press it, and its value is the next one.' }
})
</script>

<style scoped>
.instrument {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
.dot {
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--conforming);
}
.off .dot {
  background: none;
  border: 2px solid var(--soft);
}
.off {
  color: var(--soft);
}
</style>
