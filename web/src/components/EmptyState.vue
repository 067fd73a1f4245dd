<template>
  <div class="empty">
    <h1>{{ title }}</h1>
    <p class="soft">{{ text }}</p>
    <slot />
  </div>
</template>

<script setup lang="ts">
/** What stands where nothing is yet: what belongs here, and the one action that fills it. */
defineProps<{ title: string; text: string }>()
</script>

<style scoped>
.empty {
  max-width: 460px;
  margin: 15vh auto 0;
  padding: 0 24px;
  text-align: center;
}
h1 {
  font: 600 15px/20px var(--words);
}
p {
  margin: 6px 0 16px;
}
</style>
