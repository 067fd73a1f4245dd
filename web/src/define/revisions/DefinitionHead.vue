<template>
  <div class="row">
    <h1 class="grow">{{ title }}</h1>
    <slot />
    <template v-if="canChange">
      <v-btn v-if="hasDraft" color="primary" data-test="release" :disabled="isChanged" :loading="isBusy" @click="emit('release')">Release</v-btn>
      <v-btn v-if="hasDraft" variant="text" data-test="discard" :disabled="isBusy" @click="emit('discard')">Discard</v-btn>
      <v-btn v-else color="primary" variant="outlined" data-test="revise" @click="emit('revise')">Revise</v-btn>
      <v-btn v-if="hasReleased && !hasDraft" variant="text" data-test="retire" @click="emit('retire')">Retire</v-btn>
    </template>
  </div>
</template>

<script setup lang="ts">
/** The head of a definition's sheet: its name and what can be done with its revisions. */
defineProps<{ title: string; canChange: boolean; hasDraft: boolean; hasReleased: boolean; isChanged: boolean; isBusy: boolean }>()
const emit = defineEmits<{ release: []; discard: []; revise: []; retire: [] }>()
</script>
