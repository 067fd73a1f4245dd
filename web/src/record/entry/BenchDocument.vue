<template>
  <div class="document" @keydown="byKey">
    <label class="choose" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave="isOver = false" @drop.prevent="drop">
      <input ref="input" type="file" accept="image/png,image/jpeg,application/pdf" :aria-label="`${label}: choose the file`" @change="choose" />
      {{ isBusy ? 'Being kept …' : 'Choose the file, or drop it here' }}
    </label>
    <p v-if="problem" class="nonconforming small" role="alert">{{ problem }}</p>
    <p v-else class="soft small">PDF, PNG or JPEG, up to 10 MB</p>
  </div>
</template>

<script setup lang="ts">
import { documentText } from '@nemawashi/core'
import { ref } from 'vue'
import { asFailure } from '../../shell/api'
import { keepDocument } from '../../shell/uploads'

/** An answer that is a document, such as the supplier's certificate: kept at the server, named in the answer. */
defineProps<{ label: string }>()
const emit = defineEmits<{ answer: [value: string]; key: [event: KeyboardEvent] }>()
const input = ref<HTMLInputElement>()
const isBusy = ref(false)
const isOver = ref(false)
const problem = ref('')
defineExpose({ focus: () => input.value?.focus() })

async function keep(file: File | undefined): Promise<void> {
  if (!file || isBusy.value) return
  isBusy.value = true
  problem.value = ''
  try {
    const { id, name } = await keepDocument(file)
    emit('answer', documentText(name, id))
  } catch (error) {
    problem.value = asFailure(error).message
  } finally {
    isBusy.value = false
  }
}
async function choose(): Promise<void> {
  await keep(input.value?.files?.[0])
  if (input.value) input.value.value = ''
}
function drop(event: DragEvent): void {
  isOver.value = false
  void keep(event.dataTransfer?.files[0])
}
/** Space and Enter open the choice of files; other keys walk the bench. */
function byKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') input.value?.click()
  else if (event.key !== ' ' && event.key !== 'Tab') emit('key', event)
}
</script>

<style scoped>
.choose {
  display: grid;
  place-items: center;
  width: 320px;
  height: 64px;
  border: 2px solid var(--indigo);
  border-radius: 4px;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
}
.choose.over {
  background: var(--wash);
}
.choose:focus-within {
  outline: 2px solid var(--indigo);
  outline-offset: 2px;
}
input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
p {
  margin: 4px 0 0;
}
</style>
