import { i18n } from './i18n'

const shown = (t: string | undefined, style: Intl.DateTimeFormatOptions) =>
  t ? new Date(t).toLocaleString(i18n.global.locale.value === 'de' ? 'de' : 'en-GB', style) : '–'

export const when = (t?: string) => shown(t, { dateStyle: 'medium', timeStyle: 'short' })
export const day = (t?: string) => shown(t, { dateStyle: 'medium' })
export const kilobytes = (n: number) => `${Math.max(1, Math.round(n / 1024))} KB`
