import { createRouter, createWebHistory } from 'vue-router'
import { session } from './api'
import LogIn from './views/LogIn.vue'
import Templates from './views/Templates.vue'
import Records from './views/Records.vue'
import Batches from './views/Batches.vue'
import Documents from './views/Documents.vue'
import Ledger from './views/Ledger.vue'
import Settings from './views/Settings.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/templates' },
    { path: '/log-in', component: LogIn, meta: { open: true } },
    { path: '/templates', component: Templates },
    { path: '/templates/:name', component: () => import('./views/Workbench.vue'), props: true },
    { path: '/records', component: Records },
    { path: '/batches', component: Batches },
    { path: '/documents', component: Documents },
    { path: '/ledger', component: Ledger },
    { path: '/settings', component: Settings },
    { path: '/:rest(.*)*', redirect: '/templates' },
  ],
})

router.beforeEach(async (to) => {
  if (to.meta.open) return true
  if (!session.person && !(await session.load())) return { path: '/log-in', query: { next: to.fullPath } }
  return true
})
