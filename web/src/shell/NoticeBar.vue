<template>
  <v-snackbar :key="notice.number" v-model="notice.isShown" :timeout="notice.action ? 20000 : 5000" location="top" max-width="520"
    >{{ notice.text
    }}<template v-if="notice.action" #actions
      ><v-btn variant="text" data-test="notice-action" @click="actOnNotice">{{ notice.action.words }}</v-btn></template
    ></v-snackbar
  >
</template>

<script setup lang="ts">
import { actOnNotice, notice } from './notify'

/** The message at the foot of what is done. Each has its whole time: one that comes while another is shown is a new one. */
</script>
