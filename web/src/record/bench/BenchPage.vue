<template>
  <!-- Another inspection is another desk: what is typed can never go to another one than the one shown. -->
  <BenchDesk :id="id" :key="id" />
</template>

<script setup lang="ts">
import BenchDesk from './BenchDesk.vue'

/** The bench of the inspection in the address. */
defineProps<{ id: string }>()
</script>
