<template>
  <router-link v-if="quantity > 0" class="small today" :to="to" data-test="asked-today">What would today’s rules ask?</router-link>
</template>

<script setup lang="ts">
import { computed } from 'vue'

/** The way to the rehearsal of something that happened: the same part, place, partner and quantity, under the rules of today. */
const { partId, at, partnerId, quantity } = defineProps<{
  partId: string
  /** The operation, or the kind of it. */
  at: string
  partnerId: string | null
  quantity: number
}>()
const to = computed(() => ({
  path: `/attach/${partId}`,
  query: { rehearse: at, quantity: String(quantity), ...(partnerId === null ? {} : { partner: partnerId }) },
}))
</script>

<style scoped>
.today {
  display: block;
  width: fit-content;
  padding: 4px 0;
  text-decoration: none;
}
</style>
