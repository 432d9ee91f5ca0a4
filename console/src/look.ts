import { reactive, watch } from 'vue'
import { german } from './words.de'

/** what a person has chosen for this browser: language and light or dark */
export const look = reactive({
  language: localStorage.getItem('olive.language') ?? (navigator.language.startsWith('de') ? 'de' : 'en'),
  theme: localStorage.getItem('olive.theme') ?? 'system',
})

const dark = window.matchMedia('(prefers-color-scheme: dark)')
export const isDark = () => look.theme === 'dark' || (look.theme === 'system' && dark.matches)

function apply() {
  document.documentElement.lang = look.language
  document.documentElement.classList.toggle('dark', isDark())
  localStorage.setItem('olive.language', look.language)
  localStorage.setItem('olive.theme', look.theme)
}
watch(look, apply)
dark.addEventListener('change', apply)
apply()

/** the text in the chosen language; {0}, {1} … stand for values. English texts
 *  are the keys, so that a text without a translation is still readable */
export function t(text: string, ...values: unknown[]): string {
  const words = (look.language === 'de' && german[text]) || text
  return words.replace(/\{(\d)\}/g, (_, i) => String(values[Number(i)] ?? ''))
}

/** how many records, in words */
export const records = (n: number) => (n === 1 ? t('1 record') : t('{0} records', n))
