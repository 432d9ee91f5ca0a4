import { createI18n, type MessageContext } from 'vue-i18n'
import { german } from './words/de'

const begun = localStorage.getItem('olive.language') ?? (navigator.language.startsWith('de') ? 'de' : 'en')

/** The console's texts. English ones are the keys, so that a text without a translation is still readable. */
export const i18n = createI18n({
  legacy: false,
  locale: begun,
  fallbackLocale: 'en',
  messages: { en: {}, de: german },
  missingWarn: false,
  fallbackWarn: false,
  warnHtmlMessage: false,
  // keys are texts, with points in them. What the service says is shown through here as well: nothing but {0}, {1} …
  // means something in it
  messageResolver(words, key) {
    const text = (words as Record<string, string>)[key] ?? key
    return ((context: MessageContext) =>
      text.replace(/\{(\d)\}/g, (_, i) => String(context.list(Number(i)) ?? ''))) as never
  },
})

/** The text in the chosen language; {0}, {1} … stand for values. */
export const t = (text: string, ...values: unknown[]) => i18n.global.t(text, values)

/** How many records, in words. */
export const records = (n: number) => (n === 1 ? t('1 record') : t('{0} records', n))
