import { config } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach } from 'vitest'
import { i18n } from '../i18n'

// each test begins in English, with nothing kept in the browser and nobody logged in
beforeEach(() => {
  localStorage.clear()
  i18n.global.locale.value = 'en'
  const pinia = createPinia()
  setActivePinia(pinia)
  config.global.plugins = [pinia, i18n]
})
