<template>
  <EmptyState
    title="There is nothing at this address"
    text="It may have been typed wrongly. The search finds parts, lots, inspections and people: press /."
  />
</template>

<script setup lang="ts">
import EmptyState from '../components/EmptyState.vue'
</script>
