<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import de from 'element-plus/es/locale/lang/de'
import en from 'element-plus/es/locale/lang/en'
import { useSession } from './stores/session'
import { t } from './i18n'
import { useLook } from './stores/look'
import Account from './parts/Account.vue'

const look = useLook()
const session = useSession()
const router = useRouter()
const route = useRoute()
const places = ['Templates', 'Records', 'Batches', 'Documents', 'Ledger', 'Settings'].map((label) => ({
  to: `/${label.toLowerCase()}`,
  label,
}))
const here = computed(() => places.find((p) => route.path.startsWith(p.to)))
const locale = computed(() => (look.language === 'de' ? de : en))
const help = ref(false)
const account = ref(false)

function apiDocs() {
  window.open('/api.html', '_blank', 'noopener')
}

async function leave() {
  await session.logOut()
  router.push('/log-in')
}

/** Alt and a digit goes to a place, / to the search of a list, ? shows help */
function key(e: KeyboardEvent) {
  if (!session.person) return
  const writing = (e.target as HTMLElement).closest('input, textarea, [contenteditable=true]')
  if (e.altKey && /^[1-6]$/.test(e.key)) {
    e.preventDefault()
    router.push(places[Number(e.key) - 1].to)
  } else if (e.key === '/' && !writing) {
    const field = document.querySelector<HTMLInputElement>('.search input')
    if (field) {
      e.preventDefault()
      field.focus()
    }
  } else if (e.key === '?' && !writing) help.value = true
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))
</script>

<template>
  <el-config-provider :locale="locale">
    <div class="frame">
      <header v-if="session.person" class="bar">
        <RouterLink to="/" class="brand" :title="t('Start page')"
          ><img src="/olive.svg" alt="" width="26" height="26" /> <span>Olive Ledger</span></RouterLink
        >
        <el-dropdown class="menu" trigger="click">
          <button class="who" data-test="menu">☰ {{ t(here?.label ?? 'Menu') }}</button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item v-for="p in places" :key="p.to" @click="router.push(p.to)">
                {{ t(p.label) }}
              </el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
        <nav aria-label="Main">
          <RouterLink
            v-for="p in places"
            :key="p.to"
            :to="p.to"
            :class="{ here: p === here }"
            :data-label="t(p.label)"
            >{{ t(p.label) }}</RouterLink
          >
        </nav>
        <el-dropdown trigger="click">
          <button class="who" data-test="me">{{ session.person.name }} ▾</button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item
                v-for="l in [
                  ['en', 'English'],
                  ['de', 'Deutsch'],
                ]"
                :key="l[0]"
                :disabled="look.language === l[0]"
                @click="look.language = l[0]"
                >{{ l[1] }}</el-dropdown-item
              >
              <el-dropdown-item
                v-for="(m, i) in ['Light', 'Dark', 'System']"
                :key="m"
                :divided="i === 0"
                :disabled="look.theme === m.toLowerCase()"
                @click="look.theme = m.toLowerCase()"
                >{{ t(m) }}</el-dropdown-item
              >
              <el-dropdown-item divided data-test="my-account" @click="account = true">{{
                t('My account')
              }}</el-dropdown-item>
              <el-dropdown-item @click="help = true">{{ t('Keyboard shortcuts') }}</el-dropdown-item>
              <el-dropdown-item @click="apiDocs">{{ t('API for programs') }}</el-dropdown-item>
              <el-dropdown-item divided data-test="leave" @click="leave">{{ t('Log out') }}</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </header>
      <main><RouterView /></main>
    </div>
    <Account v-if="session.person" v-model="account" />
    <el-dialog v-model="help" :title="t('Keyboard shortcuts')" width="440">
      <dl class="keys">
        <template v-for="(p, i) in places" :key="p.to"
          ><dt>
            <kbd>Alt</kbd> <kbd>{{ i + 1 }}</kbd>
          </dt>
          <dd>{{ t(p.label) }}</dd></template
        >
        <dt><kbd>/</kbd></dt>
        <dd>{{ t('Find in this list') }}</dd>
        <dt><kbd>Ctrl</kbd> <kbd>S</kbd></dt>
        <dd>{{ t('Publish') }}</dd>
        <dt><kbd>?</kbd></dt>
        <dd>{{ t('Show these shortcuts') }}</dd>
      </dl>
    </el-dialog>
  </el-config-provider>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
}
main {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
.bar {
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 0 24px;
  height: 56px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  flex: none;
}
.brand {
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 650;
  color: var(--olive-deep);
  text-decoration: none;
  font-size: 16px;
  white-space: nowrap;
}
nav {
  display: flex;
  gap: 2px;
  flex: 1;
  height: 100%;
  overflow-x: auto;
}
nav a {
  display: grid;
  align-content: center;
  padding: 2px 11px 0;
  color: var(--ink-soft);
  text-decoration: none;
  border-bottom: 2px solid transparent;
  white-space: nowrap;
}
/* as wide as when it is bold, so that the others stay in their places */
nav a::after {
  content: attr(data-label) / '';
  height: 0;
  overflow: hidden;
  visibility: hidden;
  font-weight: 600;
}
nav a:hover {
  color: var(--ink);
}
nav a.here {
  color: var(--olive-deep);
  border-color: var(--olive);
  font-weight: 600;
}
.who {
  border: 0;
  background: none;
  font: inherit;
  font-size: 14px;
  color: var(--ink-soft);
  cursor: pointer;
  white-space: nowrap;
  padding: 8px;
}
.keys {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 8px;
  margin: 0;
}
.keys dd {
  margin: 0;
}
kbd {
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 1px 7px;
  font: inherit;
  font-size: 13px;
  background: var(--paper);
}
.menu {
  display: none;
  flex: 1;
}
.menu .who {
  color: var(--ink);
}
@media (max-width: 720px) {
  nav {
    display: none;
  }
  .menu {
    display: flex;
  }
}
@media (max-width: 860px) {
  .brand span {
    display: none;
  }
  .bar {
    gap: 8px;
    padding: 0 10px;
  }
  nav a {
    padding: 2px 7px 0;
  }
}
</style>
