import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'
import LogIn from './views/LogIn.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('./views/Start.vue') },
    { path: '/log-in', component: LogIn, meta: { open: true } },
    { path: '/templates', component: () => import('./views/Templates.vue') },
    { path: '/templates/:name', component: () => import('./views/Workbench.vue'), props: true },
    { path: '/records', component: () => import('./views/Records.vue') },
    { path: '/batches', component: () => import('./views/Batches.vue') },
    { path: '/documents', component: () => import('./views/Documents.vue') },
    { path: '/ledger', component: () => import('./views/Ledger.vue') },
    { path: '/settings', component: () => import('./views/Settings.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

router.beforeEach(async (to) => {
  if (to.meta.open) return true
  const session = useSession()
  if (!session.person && !(await session.load())) return { path: '/log-in', query: { next: to.fullPath } }
  return true
})
