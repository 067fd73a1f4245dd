import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'
import SignInPage from '../people/SignInPage.vue'
import { useSession } from '../shell/session'
import { guardUnsaved } from '../shell/unsaved'

declare module 'vue-router' {
  interface RouteMeta {
    /** Word of the rail that is lit. */
    area?: string
    isOpenToAll?: boolean
  }
}

const master = () => import('../define/masters/MasterPage.vue')
const routes: RouteRecordRaw[] = [
  { path: '/', redirect: '/today' },
  { path: '/sign-in', component: SignInPage, meta: { isOpenToAll: true } },
  { path: '/today', component: () => import('../today/TodayPage.vue'), meta: { area: 'today' } },
  { path: '/define', redirect: '/define/characteristics' },
  { path: '/define/characteristics/:id?', component: () => import('../define/library/CharacteristicsPage.vue'), meta: { area: 'define' } },
  { path: '/define/plans/:id?', component: () => import('../define/plans/PlansPage.vue'), meta: { area: 'define' } },
  { path: '/define/import', component: () => import('../define/library/ImportPage.vue'), meta: { area: 'define' } },
  { path: '/define/sampling', component: () => import('../define/sampling/WorkshopPage.vue'), meta: { area: 'define' } },
  {
    path: '/define/:kind(parts|families|partners|places|operations|answer-lists|fault-codes|reasons|count-units|measure-units|gauge-kinds|classes|finer-standings)/:id?',
    component: master,
    meta: { area: 'define' },
  },
  { path: '/attach/:id?', component: () => import('../attach/flow/AttachPage.vue'), meta: { area: 'attach' } },
  { path: '/run/orders/:id?', component: () => import('../run/production/OrdersPage.vue'), meta: { area: 'run' } },
  { path: '/run/dispatches/:id?', component: () => import('../run/shipping/DispatchesPage.vue'), meta: { area: 'run' } },
  { path: '/run/purchase-orders/:id?', component: () => import('../run/purchasing/PurchasesPage.vue'), meta: { area: 'run' } },
  { path: '/run/expected/:id?', component: () => import('../run/receiving/ExpectedPage.vue'), meta: { area: 'run' } },
  { path: '/run/feed/:id?', component: () => import('../run/feed/FeedPage.vue'), meta: { area: 'run' } },
  { path: '/run/transfers', component: () => import('../run/moving/TransfersPage.vue'), meta: { area: 'run' } },
  { path: '/run/places', component: () => import('../run/moving/PlacesPage.vue'), meta: { area: 'run' } },
  { path: '/run/stock', component: () => import('../run/moving/StockPage.vue'), meta: { area: 'run' } },
  { path: '/run/:id?', component: () => import('../run/receiving/RunPage.vue'), meta: { area: 'run' } },
  { path: '/record', component: () => import('../record/queue/QueuePage.vue'), meta: { area: 'record' } },
  { path: '/record/day', component: () => import('../record/planning/DayPage.vue'), meta: { area: 'record' } },
  { path: '/record/planning', component: () => import('../record/planning/PlanningPage.vue'), meta: { area: 'record' } },
  { path: '/record/:id', props: true, component: () => import('../record/bench/BenchPage.vue'), meta: { area: 'record' } },
  { path: '/contain/stops/:id?', component: () => import('../contain/StopsPage.vue'), meta: { area: 'contain' } },
  { path: '/contain/lot/:lotId', component: () => import('../contain/ContainPage.vue'), meta: { area: 'contain' } },
  { path: '/contain/:id?', component: () => import('../contain/ContainPage.vue'), meta: { area: 'contain' } },
  { path: '/trace/:id?', component: () => import('../trace/TracePage.vue'), meta: { area: 'trace' } },
  { path: '/equip', redirect: '/equip/gauges' },
  { path: '/equip/gauges/:id?', component: () => import('../equip/GaugesPage.vue'), meta: { area: 'equip' } },
  { path: '/people/sessions', component: () => import('../people/SessionsPage.vue'), meta: { area: 'people' } },
  { path: '/people/audit', component: () => import('../people/AuditPage.vue'), meta: { area: 'people' } },
  { path: '/people/:id?', component: () => import('../people/PeoplePage.vue'), meta: { area: 'people' } },
  ...(import.meta.env.DEV ? [{ path: '/gallery', component: () => import('../gallery/GalleryPage.vue'), meta: { isOpenToAll: true } }] : []),
  { path: '/:path(.*)*', component: () => import('./NotFoundPage.vue'), meta: { isOpenToAll: true } },
]

export const router = createRouter({ history: createWebHistory(), routes })

guardUnsaved(router)
// After an update of the server the pieces of the old pages are gone: the page loads itself anew, once.
window.addEventListener('vite:preloadError', (event) => {
  if (sessionStorage.getItem('reloaded for') === location.href) return
  event.preventDefault()
  sessionStorage.setItem('reloaded for', location.href)
  location.reload()
})

router.beforeEach(async (to) => {
  const session = useSession()
  if (!session.hasLoaded) await session.reach()
  if (to.meta.isOpenToAll || session.person) return true
  return { path: '/sign-in', query: to.fullPath === '/today' ? {} : { then: to.fullPath } }
})
