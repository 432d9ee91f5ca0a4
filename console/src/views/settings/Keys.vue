<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Key } from '../../api'
import { attempt } from '../../attempt'
import { when } from '../../format'
import { t } from '../../i18n'

const keys = ref<Key[]>()
const templates = ref<string[]>([])
const key = ref({ name: '', scopes: ['read'], days: 0, templates: [] as string[] })
const secret = ref('') // of the key that was just made
const scopes = ['read', 'render', 'design', 'records', 'issue', 'approve', 'send', 'keep']

async function read() {
  keys.value = (await attempt(() => service.keys()))?.items
}
async function addKey() {
  const out = await attempt(() => service.addKey(key.value))
  if (!out) return
  secret.value = out.key!
  key.value.name = ''
  read()
}
async function revoke(k: Key) {
  await attempt(() => service.revokeKey(k.id))
  read()
}
onMounted(async () => {
  await read()
  templates.value = (await attempt(() => service.templates()))?.items.map((x) => x.name) ?? []
})
</script>

<template>
  <el-alert v-if="secret" type="success" :title="t('Copy the key now: it is shown only once.')" @close="secret = ''"
    ><span class="mono">{{ secret }}</span></el-alert
  >
  <section class="card list">
    <el-table :data="keys">
      <el-table-column :label="t('Name')" min-width="150"
        ><template #default="{ row }">{{ row.name }}</template></el-table-column
      >
      <el-table-column :label="t('Scopes')" min-width="260"
        ><template #default="{ row }"
          ><span class="small">{{ row.scopes }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Templates')" min-width="150"
        ><template #default="{ row }"
          ><span class="small">{{ row.templates?.replaceAll(' ', ', ') || t('all') }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Until')" width="180"
        ><template #default="{ row }">{{ row.expires ? when(row.expires) : t('never') }}</template></el-table-column
      >
      <el-table-column :label="t('Actions')" width="130" align="right"
        ><template #default="{ row }"
          ><span v-if="row.revoked" class="soft">{{ t('revoked') }}</span
          ><button v-else class="textLink" @click="revoke(row)">{{ t('Revoke') }}</button></template
        ></el-table-column
      >
    </el-table>
  </section>
  <form class="card line" @submit.prevent="addKey">
    <el-input v-model="key.name" :placeholder="t('Name')" :aria-label="t('Name')" />
    <el-select v-model="key.scopes" multiple collapse-tags collapse-tags-tooltip :aria-label="t('Scopes')"
      ><el-option v-for="s in scopes" :key="s" :value="s" :label="s"
    /></el-select>
    <el-select
      v-model="key.templates"
      multiple
      collapse-tags
      collapse-tags-tooltip
      clearable
      :placeholder="t('All templates')"
      :aria-label="t('Templates')"
      ><el-option v-for="n in templates" :key="n" :value="n" :label="n"
    /></el-select>
    <el-input-number
      v-model="key.days"
      :min="0"
      :aria-label="t('Days until it ends; 0 for never')"
      :title="t('Days until it ends; 0 for never')"
    />
    <el-button native-type="submit" type="primary">{{ t('Make a key') }}</el-button>
  </form>
</template>
