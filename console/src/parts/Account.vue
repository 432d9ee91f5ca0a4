<script setup lang="ts">
import { ref, watch } from 'vue'
import { service, type LoggedIn } from '../api'
import { when } from '../format'
import { t } from '../i18n'
import { attempt } from '../attempt'

const open = defineModel<boolean>({ required: true })
const sessions = ref<LoggedIn[]>([])
const before = ref('')
const next = ref('')
const busy = ref(false)

async function read() {
  sessions.value = (await attempt(() => service.sessions()))?.items ?? []
}
watch(open, (is) => {
  before.value = next.value = ''
  if (is) read()
})

async function end(s: LoggedIn) {
  await attempt(() => service.endSession(s.name), t('Log-in ended'))
  read()
}

async function change() {
  busy.value = true
  if (
    await attempt(
      () => service.changePassword(before.value, next.value),
      t('Password changed; your other log-ins have ended'),
    )
  ) {
    before.value = next.value = ''
    read()
  }
  busy.value = false
}

/** the browser and system that an agent's long name tells of */
function browser(agent: string): string {
  const name = /Edg\//.test(agent)
    ? 'Edge'
    : /Firefox\//.test(agent)
      ? 'Firefox'
      : /Chrome\//.test(agent)
        ? 'Chromium'
        : /Safari\//.test(agent)
          ? 'Safari'
          : agent.slice(0, 40)
  const system = ['Windows', 'Android', 'iPhone', 'iPad', 'Mac OS', 'Linux'].find((s) => agent.includes(s))
  return system ? `${name}, ${system}` : name || t('unknown')
}
</script>

<template>
  <el-dialog v-model="open" :title="t('My account')" width="660" data-test="account">
    <h3>{{ t('Password') }}</h3>
    <form class="password" @submit.prevent="change">
      <el-input
        v-model="before"
        type="password"
        show-password
        :placeholder="t('Present password')"
        :aria-label="t('Present password')"
        autocomplete="current-password"
      />
      <el-input
        v-model="next"
        type="password"
        show-password
        :placeholder="t('New password')"
        :aria-label="t('New password')"
        autocomplete="new-password"
      />
      <el-button native-type="submit" type="primary" :loading="busy" :disabled="!before || next.length < 10">{{
        t('Change')
      }}</el-button>
    </form>
    <p class="soft small">{{ t('At least 10 characters') }}. {{ t('Your other log-ins end with it.') }}</p>
    <h3>{{ t('Where I am logged in') }}</h3>
    <el-table :data="sessions">
      <el-table-column :label="t('Browser')" min-width="150"
        ><template #default="{ row }">{{ browser(row.agent) }}</template></el-table-column
      >
      <el-table-column :label="t('Address')" width="130"
        ><template #default="{ row }"
          ><span class="mono">{{ row.address }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Since')" width="180"
        ><template #default="{ row }">{{ when(row.since) }}</template></el-table-column
      >
      <el-table-column label="" width="110" align="right"
        ><template #default="{ row }"
          ><span v-if="row.this" class="soft">{{ t('this one') }}</span
          ><button v-else class="textLink" @click="end(row)">{{ t('End') }}</button></template
        ></el-table-column
      >
    </el-table>
  </el-dialog>
</template>

<style scoped>
h3 {
  margin: 0 0 10px;
  font-size: 15px;
}
.password {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
p {
  margin: 6px 0 24px;
}
.password > * {
  flex: 1 1 200px;
}
.password .el-button {
  flex: 0 0 auto;
}
</style>
