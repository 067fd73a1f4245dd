<template>
  <v-app :theme="theme">
    <main v-if="session.person && session.owes && route.path !== '/gallery'" class="bare"><OwedPage /></main>
    <div v-else-if="session.person && !isBare" class="frame">
      <a class="skip" href="#page">Skip to the page</a>
      <AppRail />
      <TopStrip />
      <main id="page" tabindex="-1">
        <PageBoundary><router-view /></PageBoundary>
      </main>
    </div>
    <main v-else class="bare">
      <p v-if="session.trouble" class="waiting" role="status" data-test="no-server">
        {{ session.trouble }} It is asked again every two seconds; this page goes on by itself. What was typed at the bench is kept.
      </p>
      <router-view />
    </main>
    <p v-if="storageTrouble" class="trouble" role="alert" data-test="storage-trouble">
      {{ storageTrouble }} What you type is kept on this screen; tell the administrator.
    </p>
    <p v-else-if="session.clockTrouble" class="trouble" role="alert" data-test="clock-trouble">
      {{ session.clockTrouble }} <v-btn size="small" variant="outlined" data-test="clock-right" @click="session.agreeToClock()">It is right</v-btn>
    </p>
    <p v-else-if="session.plantTrouble" class="trouble" role="alert" data-test="plant-trouble">{{ session.plantTrouble }}</p>
    <SignInAgain v-if="session.person || session.interrupted !== null" />
    <AskDialog v-if="hasAsked" />
    <NoticeBar />
  </v-app>
</template>

<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { dialog } from '../shell/ask'
import PageBoundary from '../components/PageBoundary.vue'
import NoticeBar from '../shell/NoticeBar.vue'
import { useSession } from '../shell/session'
import { storageTrouble } from '../shell/storage'
import { isDark } from '../shell/night'

const AppRail = defineAsyncComponent(() => import('./AppRail.vue'))
const TopStrip = defineAsyncComponent(() => import('../shell/TopStrip.vue'))
const AskDialog = defineAsyncComponent(() => import('../shell/AskDialog.vue'))
const SignInAgain = defineAsyncComponent(() => import('../people/SignInAgain.vue'))

const OwedPage = defineAsyncComponent(() => import('../people/OwedPage.vue'))

const session = useSession()
// Fetched with the first question: nobody is asked anything before they have signed in.
const hasAsked = ref(false)
watch(
  () => dialog.question,
  () => (hasAsked.value = true),
)
const route = useRoute()
const isBare = computed(() => route.path === '/sign-in' || route.path === '/gallery')
// What somebody typed before is sent as soon as that person signs in, on whatever page.
watch(
  () => session.person?.id,
  async (id) => {
    if (id !== undefined) await (await import('../record/bench/benchOutbox')).restoreOutbox()
  },
  { immediate: true },
)
/** Dark follows the system; the bench has a choice of its own. */
const [page, bench] = [isDark(false), isDark(true)]
const theme = computed(() => ((route.path.startsWith('/record/') ? bench : page).value ? 'night' : 'paper'))
</script>

<style scoped>
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
.trouble {
  position: fixed;
  inset: auto 0 0 0;
  z-index: 3000;
  margin: 0;
  padding: 10px 20px;
  background: var(--nonconforming);
  color: #fff;
  font-weight: 600;
}
.waiting {
  margin: 0;
  padding: 12px 24px;
  border-left: 4px solid var(--hold);
  background: var(--sheet);
}
.bare {
  height: 100vh;
  overflow: auto;
}
/* A thumb reaches the foot. */
@media (max-width: 700px) {
  .frame {
    grid-template: 48px minmax(0, 1fr) 60px / minmax(0, 1fr);
    height: 100dvh;
  }
  .frame > .rail {
    grid-row: 3;
  }
}
@media print {
  .frame {
    display: block;
    height: auto;
  }
  .frame > main {
    overflow: visible;
  }
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
