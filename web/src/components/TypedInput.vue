<template>
  <input v-model="typed" @change="take" />
</template>

<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'

/**
 * A field that is read when it is left, not with each key. What is being typed stays while the page around it is drawn anew, as a plain field
 * bound to its value would not let it; what is not taken over gives way to the value that stands.
 */
const { value } = defineProps<{ value: string | number }>()
const emit = defineEmits<{ taken: [text: string] }>()
const typed = ref(String(value))
watch(
  () => value,
  (now) => (typed.value = String(now)),
)
async function take(): Promise<void> {
  emit('taken', typed.value)
  await nextTick()
  typed.value = String(value)
}
</script>
