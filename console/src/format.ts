import { i18n, t } from './i18n'

const shown = (t: string | undefined, style: Intl.DateTimeFormatOptions) =>
  t ? new Date(t).toLocaleString(i18n.global.locale.value === 'de' ? 'de' : 'en-GB', style) : '–'

export const when = (t?: string) => shown(t, { dateStyle: 'medium', timeStyle: 'short' })
export const day = (t?: string) => shown(t, { dateStyle: 'medium' })
export const kilobytes = (n: number) => `${Math.max(1, Math.round(n / 1024))} KB`
/** a number of seconds in words */
export const span = (seconds: number) =>
  seconds < 90
    ? t('{0} s', Math.ceil(seconds))
    : seconds < 5400
      ? t('{0} min', Math.round(seconds / 60))
      : t('{0} h', Math.round(seconds / 3600))
