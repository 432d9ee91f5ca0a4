<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { service, type Happening, type Hook, type HookInput, type Setup } from '../../api'
import { attempt } from '../../attempt'
import { t } from '../../i18n'
import { happenings, told } from '../../parts/happenings'
import HookLog from '../../parts/HookLog.vue'

const route = useRoute()
const setup = ref<Setup>()
const hooks = ref<Hook[]>()
const hook = ref({ address: '', events: Object.keys(happenings) as Happening[] })
const logged = ref<Hook>() // whose messages are shown

async function read() {
  hooks.value = (await attempt(() => service.hooks()))?.items
}
async function add() {
  if (!(await attempt(() => service.addHook(hook.value), t('Kept')))) return
  hook.value.address = ''
  read()
}
async function change(h: Hook, body: HookInput) {
  await attempt(() => service.setHook(h, body), t('Kept'))
  read()
}
async function remove(h: Hook) {
  await attempt(async () => {
    await ElMessageBox.confirm(t('It is told nothing more. What waits to be told fails.'), h.address, {
      confirmButtonText: t('Remove the webhook'),
      cancelButtonText: t('Cancel'),
    })
    await service.removeHook(h.id)
  })
  read()
}
onMounted(async () => {
  await read()
  logged.value = hooks.value?.find((h) => h.id === Number(route.query.hook))
  setup.value = await attempt(() => service.setup())
})
</script>

<template>
  <el-alert
    v-if="setup && !setup.hosts.length"
    class="told"
    type="info"
    :closable="false"
    :title="t('Nothing may be posted yet: start the service with --deliver-host and --webhook-secret.')"
    show-icon
  />
  <section class="card list">
    <el-table
      :data="hooks"
      :empty-text="
        hooks ? t('No webhooks yet. A program at an address of yours can be told when something happens.') : '…'
      "
    >
      <el-table-column :label="t('Address')" min-width="240"
        ><template #default="{ row }"
          ><button class="textLink mono" @click="logged = row">{{ row.address }}</button></template
        ></el-table-column
      >
      <el-table-column :label="t('Is told of')" min-width="260"
        ><template #default="{ row }"
          ><span class="small">{{ row.events.map((e: Happening) => t(told(e))).join(', ') }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Paused')" width="110" align="center"
        ><template #default="{ row }"
          ><el-switch
            :model-value="row.paused"
            :aria-label="t('Paused')"
            @change="(v: string | number | boolean) => change(row, { paused: !!v })" /></template
      ></el-table-column>
      <el-table-column :label="t('Actions')" width="210" align="right"
        ><template #default="{ row }"
          ><span class="actions"
            ><button class="textLink" @click="logged = row">{{ t('Messages') }}</button>
            <button class="textLink" @click="remove(row)">{{ t('Remove') }}</button></span
          ></template
        ></el-table-column
      >
    </el-table>
  </section>
  <form class="card line" @submit.prevent="add">
    <el-input
      v-model="hook.address"
      class="address"
      placeholder="https://books.example.org/olive"
      :aria-label="t('Address')"
    />
    <el-select v-model="hook.events" multiple collapse-tags collapse-tags-tooltip :aria-label="t('Is told of')"
      ><el-option v-for="(label, name) in happenings" :key="name" :value="name" :label="t(label)"
    /></el-select>
    <el-button native-type="submit" type="primary" :disabled="!hook.address || !hook.events.length">{{
      t('Add a webhook')
    }}</el-button>
  </form>
  <HookLog :hook="logged" @close="logged = undefined" />
</template>

<style scoped>
.told {
  margin-bottom: 14px;
}
.address {
  flex: 2 1 280px;
}
.actions {
  display: inline-flex;
  gap: 14px;
}
</style>
