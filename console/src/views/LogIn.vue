<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { service } from '../api'
import { useSession } from '../stores/session'
import { t } from '../i18n'

const session = useSession()
const route = useRoute()
const router = useRouter()
const email = ref('')
const password = ref('')
const error = ref(refusal())
const way = ref('')
const busy = ref(false)

async function enter() {
  error.value = ''
  busy.value = true
  try {
    await session.logIn(email.value.trim(), password.value)
    const next = String(route.query.next ?? '/')
    router.push(next.startsWith('/') && !next.startsWith('//') ? next : '/')
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
/** why a sign-in through the provider was refused: the service leaves it in a cookie of this page */
function refusal(): string {
  const value = document.cookie.match(/(?:^|; )olive-refused=([^;]*)/)?.[1] ?? ''
  document.cookie = 'olive-refused=; path=/log-in; max-age=0'
  return decodeURIComponent(value)
}

onMounted(async () => {
  way.value = (await service.signInWay().catch(() => ({ name: '' }))).name
})
</script>

<template>
  <div class="door">
    <form class="card" @submit.prevent="enter">
      <img src="/olive.svg" alt="" width="44" height="44" />
      <h1>Olive Ledger</h1>
      <p class="soft">{{ t('Records in, paper out.') }}</p>
      <label for="email">{{ t('Email') }}</label>
      <el-input id="email" v-model="email" type="email" autocomplete="username" size="large" autofocus />
      <label for="password">{{ t('Password') }}</label>
      <el-input
        id="password"
        v-model="password"
        type="password"
        autocomplete="current-password"
        size="large"
        show-password
      />
      <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
      <el-button native-type="submit" type="primary" size="large" :loading="busy">{{ t('Log in') }}</el-button>
      <el-button v-if="way" tag="a" href="/api/v1/sign-in" size="large" class="way" data-test="way">{{
        t('Sign in with {0}', way)
      }}</el-button>
      <p class="soft hint">{{ t('The first log-in is in {0} in the service’s data folder.', 'first-login.txt') }}</p>
    </form>
  </div>
</template>

<style scoped>
.door {
  min-height: 100%;
  display: grid;
  place-items: center;
  padding: 24px;
  background: linear-gradient(160deg, var(--tint), var(--paper) 60%);
}
form {
  width: 380px;
  max-width: 100%;
  padding: 36px 36px 28px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  box-shadow: 0 12px 40px rgb(56 71 28 / 10%);
}
h1 {
  margin-top: 8px;
}
p {
  margin: 0;
}
label {
  margin-top: 12px;
  font-size: 14px;
  font-weight: 600;
}
.el-button {
  margin-top: 16px;
}
.way {
  margin: 8px 0 0;
}
.el-alert {
  margin-top: 12px;
}
.hint {
  font-size: 13px;
  margin-top: 14px;
}
</style>
