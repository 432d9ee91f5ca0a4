<script setup lang="ts">
import { useRouter } from 'vue-router'
import { session } from './api'

const router = useRouter()
const places = [
  { to: '/templates', label: 'Templates' },
  { to: '/records', label: 'Records' },
  { to: '/documents', label: 'Documents' },
]

async function leave() {
  await session.logOut()
  router.push('/log-in')
}
</script>

<template>
  <div class="frame">
    <header v-if="session.person" class="bar">
      <RouterLink to="/templates" class="brand"><img src="/olive.svg" alt="" width="26" height="26" /> Olive Ledger</RouterLink>
      <nav aria-label="Main">
        <RouterLink v-for="p in places" :key="p.to" :to="p.to" :class="{ here: $route.path.startsWith(p.to) }">{{ p.label }}</RouterLink>
      </nav>
      <span class="who">{{ session.person.name }}</span>
      <el-button size="small" @click="leave">Log out</el-button>
    </header>
    <main><RouterView /></main>
  </div>
</template>

<style scoped>
.frame { display: flex; flex-direction: column; height: 100%; }
main { flex: 1; min-height: 0; overflow: auto; }
.bar { display: flex; align-items: center; gap: 20px; padding: 0 24px; height: 56px; background: #fff; border-bottom: 1px solid var(--line); }
.brand { display: flex; align-items: center; gap: 10px; font-weight: 650; color: var(--olive-deep); text-decoration: none; font-size: 16px; }
nav { display: flex; gap: 4px; flex: 1; height: 100%; }
nav a { display: flex; align-items: center; padding: 2px 12px 0; color: var(--ink-soft); text-decoration: none; border-bottom: 2px solid transparent; }
nav a:hover { color: var(--ink); }
nav a.here { color: var(--olive-deep); border-color: var(--olive); font-weight: 600; }
.who { color: var(--ink-soft); font-size: 14px; }
@media (max-width: 720px) { .who, .brand { font-size: 0; gap: 0; } .bar { gap: 10px; padding: 0 12px; } nav a { padding: 2px 8px 0; } }
</style>
