<template>
  <component
    :is="isFixed ? 'span' : 'button'"
    :type="isFixed ? undefined : 'button'"
    class="picture"
    :aria-label="isFixed ? undefined : `${name}: mark the place. Arrows move it, with Shift in small steps, Delete takes it away. ${placeWords}`"
    data-test="mark-place"
    @click="point"
    @keydown="byKey"
  >
    <img ref="image" :src="address" :alt="isFixed ? `${name}${place ? `, ${placeWords}` : ''}` : ''" draggable="false" />
    <svg v-if="place" class="mark" viewBox="-12 -12 24 24" :style="{ left: `${place.x / 10}%`, top: `${place.y / 10}%` }" aria-hidden="true">
      <circle r="9" class="halo" />
      <circle r="9" />
    </svg>
  </component>
</template>

<script setup lang="ts">
import type { PicturePlace } from '@nemawashi/core'
import { computed, ref } from 'vue'

/** A picture with a place marked on it, by pen, finger, mouse or keys. */
const { isFixed = false } = defineProps<{ name: string; address: string; isFixed?: boolean }>()
const place = defineModel<PicturePlace | null>({ required: true })
const image = ref<HTMLImageElement>()
const percent = (value: number) => `${Math.round(value / 10)} %`
const placeWords = computed(() =>
  place.value ? `marked ${percent(place.value.x)} from the left, ${percent(place.value.y)} from the top` : 'nothing marked',
)
const within = (value: number) => Math.max(0, Math.min(1000, Math.round(value)))

function point(event: MouseEvent): void {
  // Enter and Space are clicks too, without a place.
  if (isFixed || !image.value || event.detail === 0) return
  const { left, top, width, height } = image.value.getBoundingClientRect()
  place.value = { x: within(((event.clientX - left) / width) * 1000), y: within(((event.clientY - top) / height) * 1000) }
}
const moves: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function byKey(event: KeyboardEvent): void {
  if (isFixed) return
  const move = moves[event.key]
  if (move) {
    const step = event.shiftKey ? 10 : 50
    const from = place.value
    place.value = from ? { x: within(from.x + move[0] * step), y: within(from.y + move[1] * step) } : { x: 500, y: 500 }
  } else if (event.key === 'Delete' || event.key === 'Backspace') place.value = null
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<style scoped>
.picture {
  position: relative;
  display: inline-block;
  padding: 0;
  border: 1px solid var(--rule);
  background: none;
  line-height: 0;
  touch-action: manipulation;
}
button.picture {
  cursor: crosshair;
}
img {
  max-width: 100%;
  max-height: 100%;
  user-select: none;
}
.mark {
  position: absolute;
  width: 30px;
  height: 30px;
  transform: translate(-50%, -50%);
  pointer-events: none;
  fill: none;
  stroke: var(--nonconforming);
  stroke-width: 2.4;
}
.halo {
  stroke: var(--sheet);
  stroke-width: 5;
}
</style>
