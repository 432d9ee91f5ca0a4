import { defineStore } from 'pinia'
import { ref, watchEffect } from 'vue'
import { i18n } from '../i18n'

const dark = window.matchMedia('(prefers-color-scheme: dark)')

/** What a person has chosen for this browser: the language, and light or dark. */
export const useLook = defineStore('look', () => {
  const language = i18n.global.locale
  const theme = ref(localStorage.getItem('olive.theme') ?? 'system')
  const isDark = ref(false)

  function apply() {
    isDark.value = theme.value === 'dark' || (theme.value === 'system' && dark.matches)
    document.documentElement.lang = language.value
    document.documentElement.classList.toggle('dark', isDark.value)
    localStorage.setItem('olive.language', language.value)
    localStorage.setItem('olive.theme', theme.value)
  }
  watchEffect(apply)
  dark.addEventListener('change', apply)
  return { language, theme, isDark }
})
