<template>
  <header class="strip">
    <nav class="crumbs" aria-label="Where you are">
      <template v-for="(crumb, i) in crumbs" :key="i">
        <i v-if="i > 0" aria-hidden="true">/</i>
        <router-link v-if="crumb.to && i < crumbs.length - 1" :to="crumb.to">{{ crumb.words }}</router-link>
        <b v-else>{{ crumb.words }}</b>
      </template>
    </nav>
    <SearchBox />
    <button class="help" aria-label="Keys of this screen" @click="isHelpShown = true"><kbd>?</kbd></button>
    <v-dialog v-model="isHelpShown" width="460" aria-label="Keys of this screen">
      <v-card title="Keys of this screen">
        <v-card-text>
          <table class="plain">
            <tbody>
              <tr v-for="key in activeKeys" :key="key.key">
                <td style="width: 150px">
                  <kbd>{{ key.key }}</kbd>
                </td>
                <td>{{ key.words }}</td>
              </tr>
            </tbody>
          </table>
        </v-card-text>
        <v-card-actions><v-btn v-first-focus @click="isHelpShown = false">Close</v-btn></v-card-actions>
      </v-card>
    </v-dialog>
  </header>
</template>

<script setup lang="ts">
import { ref } from 'vue'
import { crumbs } from './crumbs'
import { vFirstFocus } from './firstFocus'
import { activeKeys, useKeys } from './keys'
import SearchBox from './SearchBox.vue'

const isHelpShown = ref(false)
useKeys([{ key: '?', words: 'these keys', run: () => (isHelpShown.value = true) }])
</script>

<style scoped>
.strip {
  border-bottom: 1px solid var(--rule);
  background: var(--paper);
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 20px;
  min-width: 0;
}
.crumbs {
  display: flex;
  gap: 7px;
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  color: var(--soft);
}
.crumbs a {
  color: var(--soft);
  text-decoration: none;
}
.crumbs a:hover {
  text-decoration: underline;
}
.crumbs b {
  overflow: hidden;
  text-overflow: ellipsis;
  color: var(--ink);
  font-weight: 600;
}
.crumbs i {
  font-style: normal;
  color: var(--soft);
  opacity: 0.6;
}
.help {
  flex: none;
  min-width: 32px;
  min-height: 32px;

  background: none;
  border: 0;
  cursor: pointer;
}
@media (max-width: 700px) {
  .strip {
    padding: 0 10px;
    gap: 8px;
  }
  .crumbs > :not(:last-child) {
    display: none;
  }
}
@media print {
  .strip {
    display: none;
  }
}
</style>
