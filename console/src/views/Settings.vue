<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { t } from '../i18n'
import { useSession } from '../stores/session'
import Delivery from './settings/Delivery.vue'
import Events from './settings/Events.vue'
import Fonts from './settings/Fonts.vue'
import Hooks from './settings/Hooks.vue'
import Keys from './settings/Keys.vue'
import NumberSeries from './settings/NumberSeries.vue'
import People from './settings/People.vue'

const session = useSession()
const route = useRoute()
const tabs = [
  { name: 'people', label: 'People', part: People, keeps: true },
  { name: 'keys', label: 'Keys', part: Keys, keeps: true },
  { name: 'series', label: 'Number series', part: NumberSeries },
  { name: 'fonts', label: 'Fonts', part: Fonts },
  { name: 'delivery', label: 'Delivery', part: Delivery },
  { name: 'hooks', label: 'Webhooks', part: Hooks, keeps: true },
  { name: 'events', label: 'Events', part: Events, keeps: true },
].filter((x) => !x.keeps || session.may('keep'))
const tab = ref(tabs.find((x) => x.name === route.query.tab)?.name ?? tabs[0].name)
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Settings') }}</h1>
        <p>{{ t('People, keys, numbers, fonts, and who did what.') }}</p>
      </div>
    </div>
    <el-alert
      v-if="!session.may('keep')"
      class="told"
      type="info"
      :closable="false"
      :title="t('You may look, but not change this.')"
      show-icon
    />
    <el-tabs v-model="tab">
      <el-tab-pane v-for="x in tabs" :key="x.name" :label="t(x.label)" :name="x.name">
        <component :is="x.part" v-if="tab === x.name" />
      </el-tab-pane>
    </el-tabs>
  </div>
</template>

<style scoped>
.told {
  margin-bottom: 14px;
}
</style>
