import type { Files, Finding } from '../api'
import type { Mark } from './CodeEditor.vue'

/** A stretch of a source: a file of the template, or the record. */
export interface Place {
  file: string | null // null is the record
  from: number
  to: number
}

/**
 * Where a word of a page comes from: the field of the record that shows it, or the markup. run is the stretch of text
 * around the word, which is looked for first.
 */
export function findWord(files: Files, page: string, record: string, { word, run }: { word: string; run: string }) {
  const markup = files[page]?.text ?? ''
  const others = Object.keys(files).filter((f) => /\.html?$/.test(f) && f !== page)
  for (const wanted of [run, word]) {
    for (const file of [page, null, ...others]) {
      const text = file === null ? record : (files[file]?.text ?? '')
      const from = text.indexOf(wanted)
      if (from < 0) continue
      return (file === null && useOf(fieldAt(text, from), markup, page)) || { file, from, to: from + wanted.length }
    }
  }
  return undefined
}

/** The name of the field whose value stands at a place of a record. */
const fieldAt = (record: string, at: number) => /"([^"]+)"\s*:\s*[^:]*$/.exec(record.slice(0, at))?.[1]

/** Where the markup shows a field. */
function useOf(field: string | undefined, markup: string, page: string): Place | undefined {
  if (!field) return undefined
  const name = field.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  const use = new RegExp(`\\{\\{[^}]*\\.${name}\\b[^}]*\\}\\}`).exec(markup)
  return use ? { file: page, from: use.index, to: use.index + use[0].length } : undefined
}

/** Findings of a file at their lines, and why no pages could be made, where that names a line. */
export function marksOf(file: string, findings: Finding[], failure: string): Mark[] {
  const marks: Mark[] = findings
    .filter((f) => f.line && f.file === file)
    .map((f) => ({
      line: f.line!,
      column: f.column,
      severity: f.severity === 'note' ? 'info' : (f.severity as 'error' | 'warning'),
      message: f.message,
    }))
  const at = /(?:^|[\s(/])([\w./-]+\.\w+)(?::| line )(\d+)/.exec(failure)
  if (at && (at[1] === file || at[1].endsWith('/' + file)))
    marks.push({ line: Number(at[2]), severity: 'error', message: failure })
  return marks
}

/** Another value for a declaration at a place of a file: line and column from 1, the column in bytes. */
export interface Setting {
  file: string
  line: number
  column: number
  property: string
  before: string
  value: string
}

const squeezed = (css: string) => css.replace(/\s+/g, '')

/** The text of a file with another value in a declaration; nothing where something else stands there by now. */
export function withValue(text: string, s: Setting): string | undefined {
  const lines = text.split('\n').slice(0, s.line)
  const line = lines.pop() ?? ''
  const before = new TextDecoder().decode(new TextEncoder().encode(line).slice(0, s.column - 1))
  const from = lines.reduce((sum, l) => sum + l.length + 1, 0) + before.length
  const found = /^([-\w]+)(\s*:\s*)([^;}]*?)(\s*!\s*important)?\s*(?=[;}]|$)/i.exec(text.slice(from))
  if (!found || found[1].toLowerCase() !== s.property || squeezed(found[3]) !== squeezed(s.before)) return undefined
  const at = from + found[1].length + found[2].length
  return text.slice(0, at) + s.value + text.slice(at + found[3].length)
}
