<template>
  <span
    ><router-link :to="to">{{ words[0] }}</router-link
    >{{ words[1] }}</span
  >
</template>

<script setup lang="ts">
import { describeOrigin, type Origin } from '@nemawashi/core'
import { computed } from 'vue'

/** Where a lot came from, with the way to it: the delivery it came with, or the order it was made with; of a load that leaves, its dispatch. */
const { origin } = defineProps<{ origin: Origin & { readonly originId: string } }>()

const pages: Partial<Record<Origin['originKind'], string>> = {
  delivery: '/run/',
  deliveryAnnounced: '/run/expected/',
  deliveryRegistered: '/run/expected/',
  dispatch: '/run/dispatches/',
}
const to = computed(() => (pages[origin.originKind] ?? '/run/orders/') + origin.originId)
/** The words up to and with the number, which is the link, and the rest. */
const words = computed(() => {
  const said = describeOrigin(origin)
  const end = said.indexOf(origin.originCode) + origin.originCode.length
  return [said.slice(0, end), said.slice(end)] as const
})
</script>
