import { i18n, t } from './i18n'
import { problems } from './words/problems'

/** What of a message differs, as Go writes it: %d a number, %q a text in quotes. */
const holes: Record<string, string> = { d: '(-?\\d+)', q: '("(?:[^"\\\\]|\\\\.)*")', s: '(.+?)', v: '(.+?)' }

const plain = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** The messages of the service that differ in places, longest first: the others are looked up as they are. */
const patterns = Object.keys(problems)
  .filter((format) => format.includes('%'))
  .sort((a, b) => b.length - a.length)
  .map((format) => ({
    format,
    matches: new RegExp(`^${plain(format).replace(/%([dqsv])/g, (_, kind: string) => holes[kind])}$`, 's'),
  }))

/** What the service says, in the console's language as far as that is known. */
export function inWords(detail: string): string {
  if (i18n.global.locale.value !== 'de') return detail
  if (problems[detail]) return problems[detail]
  for (const { format, matches } of patterns) {
    const found = matches.exec(detail)
    if (found) return problems[format].replace(/\{(\d)\}/g, (_, i) => t(found[Number(i) + 1]))
  }
  return detail
}
