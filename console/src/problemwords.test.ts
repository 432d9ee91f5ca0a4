import { afterEach, describe, expect, it } from 'vitest'
import { i18n } from './i18n'
import { inWords } from './problemwords'
import { problems } from './words/problems'

describe('what the service says', () => {
  afterEach(() => {
    i18n.global.locale.value = 'en'
  })

  it('is left alone in English', () => {
    expect(inWords('document 12 is void already')).toBe('document 12 is void already')
  })

  it.each([
    ['the database does not answer', 'die Datenbank antwortet nicht'],
    ['document 12 is void already', 'Dokument 12 ist schon für ungültig erklärt'],
    ['there is no number series "inv\\"oices"', 'es gibt keine Nummernreihe "inv\\"oices"'],
    ['the series %s has numbers', 'the series %s has numbers'],
    ['the lines: row 3: a [bracket]', 'die Positionen: row 3: a [bracket]'],
    ['only 2 of the 5 records that were named are in the set', 'nur 2 der 5 genannten Datensätze sind im Bestand'],
    ['what nobody has put into words', 'what nobody has put into words'],
  ])('%s', (english, german) => {
    i18n.global.locale.value = 'de'
    expect(inWords(english)).toBe(german)
  })

  it('has a place for each thing that differs', () => {
    for (const [english, german] of Object.entries(problems)) {
      const count = english.match(/%[dqsv]/g)?.length ?? 0
      for (const [, i] of german.matchAll(/\{(\d)\}/g)) expect(Number(i), english).toBeLessThan(count)
    }
  })
})
