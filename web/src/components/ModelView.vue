<template>
  <div class="model">
    <canvas
      ref="canvas"
      tabindex="0"
      :aria-label="`${name}, a 3D model: drag or use the arrows to turn it, + and − to come nearer`"
      @keydown="byKey"
    />
    <p v-if="problem" class="nonconforming small" role="alert">{{ problem }}</p>
    <p v-else class="soft small">{{ isReady ? `${size}. Drag to turn, wheel to come nearer; arrows, + and − do the same.` : 'Loading …' }}</p>
  </div>
</template>

<script setup lang="ts">
import type { ModelScene } from './modelScene'
import { onBeforeUnmount, onMounted, ref } from 'vue'

/** A glTF model to turn around. The drawing library is loaded when the first model is looked at. */
const { address } = defineProps<{ name: string; address: string }>()
const canvas = ref<HTMLCanvasElement>()
const problem = ref('')
const isReady = ref(false)
const size = ref('')
let scene: ModelScene | null = null
let isGone = false

onMounted(async () => {
  try {
    const { openModel } = await import('./modelScene')
    const response = await fetch(address)
    if (!response.ok) throw new Error(`The server answered ${response.status}.`)
    const content = await response.arrayBuffer()
    if (isGone || !canvas.value) return
    scene = await openModel(canvas.value, content)
    size.value = scene.size
    isReady.value = true
  } catch (error) {
    problem.value = `The model cannot be shown: ${error instanceof Error ? error.message : String(error)}`
  }
})
onBeforeUnmount(() => {
  isGone = true
  scene?.close()
})
function byKey(event: KeyboardEvent): void {
  const turns: Readonly<Record<string, readonly [number, number, number]>> = {
    ArrowLeft: [-0.15, 0, 1],
    ArrowRight: [0.15, 0, 1],
    ArrowUp: [0, -0.15, 1],
    ArrowDown: [0, 0.15, 1],
    '+': [0, 0, 0.88],
    '-': [0, 0, 1.14],
  }
  const turn = turns[event.key]
  if (!turn || !scene) return
  scene.turn(...turn)
  event.preventDefault()
  event.stopPropagation()
}
</script>

<style scoped>
canvas {
  display: block;
  width: 100%;
  aspect-ratio: 16 / 10;
  border: 1px solid var(--rule);
  background: var(--paper);
  touch-action: none;
}
p {
  margin: 6px 0 0;
}
</style>
