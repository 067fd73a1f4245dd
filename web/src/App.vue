<template>
  <v-app :theme="theme">
    <div v-if="session.person && !isBare" class="frame">
      <a class="skip" href="#page">Skip to the page</a>
      <AppRail />
      <TopStrip />
      <main id="page" tabindex="-1"><router-view /></main>
    </div>
    <main v-else class="bare"><router-view /></main>
    <SignInAgain />
    <v-snackbar v-model="notice.isShown" :timeout="notice.action ? 20000 : 5000" location="bottom"
      >{{ notice.text
      }}<template v-if="notice.action" #actions
        ><v-btn variant="text" data-test="notice-action" @click="actOnNotice">{{ notice.action.words }}</v-btn></template
      ></v-snackbar
    >
  </v-app>
</template>

<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useRoute } from 'vue-router'
import { actOnNotice, notice } from './frame/notify'
import { useSession } from './frame/session'
import { isNight } from './frame/night'

const AppRail = defineAsyncComponent(() => import('./frame/AppRail.vue'))
const TopStrip = defineAsyncComponent(() => import('./frame/TopStrip.vue'))
const SignInAgain = defineAsyncComponent(() => import('./people/SignInAgain.vue'))

const session = useSession()
const route = useRoute()
const isBare = computed(() => route.path === '/sign-in' || route.path === '/gallery')
/** The dark sheet is for the bench. */
const theme = computed(() => (isNight.value && route.path.startsWith('/record/') ? 'night' : 'paper'))
</script>

<style>
.frame {
  display: grid;
  grid-template: 48px minmax(0, 1fr) / 84px minmax(0, 1fr);
  height: 100vh;
}
.frame > .rail {
  grid-row: 1 / 3;
}
.frame > main {
  overflow: auto;
  min-height: 0;
  outline: none;
}
.bare {
  height: 100vh;
  overflow: auto;
}
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 10;
  background: var(--sheet);
  padding: 6px 10px;
}
</style>
