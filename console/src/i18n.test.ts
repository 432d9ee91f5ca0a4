import { describe, expect, it } from 'vitest'
import { i18n, records, t } from './i18n'
import { german } from './words/de'

describe('texts', () => {
  it('have their values in either language', () => {
    expect(t('version {0}', 3)).toBe('version 3')
    expect(records(1)).toBe('1 record')
    i18n.global.locale.value = 'de'
    expect(t('version {0}', 3)).toBe('Version 3')
    expect(t('Record {0} of {1}', 2, 9)).toBe('Datensatz 2 von 9')
    expect(records(2)).toBe('2 Datensätze')
  })
  it.each(['a | b', 'mail to ada@example.test', 'page.html: {{.name}} is missing', '{name}', "it's @:linked"])(
    'of the service come through as they are: %s',
    (text) => {
      expect(t(text)).toBe(text)
      i18n.global.locale.value = 'de'
      expect(t(text)).toBe(text)
    },
  )
})

describe('German', () => {
  const texts = import.meta.glob<string>(['./**/*.vue', './**/*.ts', '!./**/*.test.ts'], {
    query: '?raw',
    import: 'default',
    eager: true,
  })
  const sources = Object.values(texts)
  const used = new Set(
    sources.flatMap((s) => [...s.matchAll(/\bt\(\s*'((?:[^'\\]|\\.)+)'/g)].map((m) => m[1].replace(/\\'/g, "'"))),
  )

  it('has every text that the console shows', () => {
    expect(used.size).toBeGreaterThan(150)
    expect([...used].filter((text) => !(text in german))).toEqual([])
  })
  it('has the values of the English text', () => {
    const values = (s: string) => [...s.matchAll(/\{\d\}/g)].map(String).sort().join()
    expect(Object.entries(german).filter(([en, de]) => values(en) !== values(de))).toEqual([])
  })
})
