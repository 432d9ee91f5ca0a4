<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { basicSetup, EditorView } from 'codemirror'
import { html, htmlLanguage } from '@codemirror/lang-html'
import { css } from '@codemirror/lang-css'
import { json } from '@codemirror/lang-json'
import { linter, lintGutter, forceLinting, type Diagnostic } from '@codemirror/lint'
import { syntaxHighlighting } from '@codemirror/language'
import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete'
import type { Extension } from '@codemirror/state'
import { useLook } from '../stores/look'
import { darkHighlighting } from './darkhighlighting'
import { functions } from './functions'

const look = useLook()
export interface Mark {
  line: number
  column?: number
  severity: 'error' | 'warning' | 'info'
  message: string
}

const props = defineProps<{ modelValue: string; file: string; fields?: string[]; marks?: Mark[] }>()
const emit = defineEmits<{ 'update:modelValue': [string] }>()
const host = ref<HTMLElement>()
let view: EditorView | undefined

/** fields of the record and functions, inside {{ }} */
function complete(c: CompletionContext): CompletionResult | null {
  const line = c.state.doc.lineAt(c.pos)
  const before = line.text.slice(0, c.pos - line.from)
  if (before.lastIndexOf('{{') <= before.lastIndexOf('}}')) return null
  const word = c.matchBefore(/[\w.$]*/)
  if (!word || (word.from === word.to && !c.explicit)) return null
  return {
    from: word.from,
    options: [
      ...(props.fields ?? []).map((f) => ({ label: '.' + f, type: 'property' })),
      ...functions.map(([label, info]) => ({ label, info, type: 'function' })),
    ],
    validFor: /^[\w.$]*$/,
  }
}

function language(name: string): Extension[] {
  if (name.endsWith('.css')) return [css()]
  if (name.endsWith('.json')) return [json()]
  if (/\.(html?|svg|xml)$/.test(name)) return [html(), htmlLanguage.data.of({ autocomplete: complete })]
  return []
}

/** what is off, at its place */
function diagnostics(v: EditorView): Diagnostic[] {
  return (props.marks ?? [])
    .filter((m) => m.line >= 1 && m.line <= v.state.doc.lines)
    .map((m) => {
      const line = v.state.doc.line(m.line)
      const from = Math.min(line.from + Math.max((m.column ?? 1) - 1, 0), line.to)
      return { from, to: m.column ? Math.min(from + 1, line.to) : line.to, severity: m.severity, message: m.message }
    })
}

function start() {
  view?.destroy()
  view = new EditorView({
    doc: props.modelValue,
    parent: host.value,
    extensions: [
      basicSetup,
      ...language(props.file),
      linter(diagnostics, { delay: 60000 }),
      lintGutter(),
      look.isDark ? [EditorView.theme({}, { dark: true }), syntaxHighlighting(darkHighlighting)] : [],
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': props.file, tabindex: '0' }),
      EditorView.updateListener.of((u) => {
        if (u.docChanged) emit('update:modelValue', u.state.doc.toString())
      }),
    ],
  })
  forceLinting(view)
}

onMounted(start)
watch(() => props.file, start)
watch(
  () => props.modelValue,
  (text) => {
    if (view && text !== view.state.doc.toString())
      view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } })
  },
)
watch(
  () => props.marks,
  () => view && forceLinting(view),
)
onBeforeUnmount(() => view?.destroy())

/** brings a place into view and puts the cursor there */
function reveal(from: number, to = from) {
  if (!view) return
  view.dispatch({ selection: { anchor: from, head: to }, effects: EditorView.scrollIntoView(from, { y: 'center' }) })
  view.focus()
}
function revealLine(n: number) {
  if (view && n >= 1 && n <= view.state.doc.lines) reveal(view.state.doc.line(n).from)
}
/** Puts text where the cursor is, and the cursor into it: at its first line's end, or before }}. */
function insert(text: string) {
  if (!view) return
  const { from, to } = view.state.selection.main
  const inside = text.includes('\n') ? text.indexOf('\n') : text.endsWith(' }}') ? text.length - 2 : text.length
  view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + inside }, scrollIntoView: true })
  view.focus()
}
defineExpose({ reveal, revealLine, insert })
</script>

<template><div ref="host" class="editor" /></template>

<style scoped>
.editor {
  height: 100%;
  min-height: 0;
  flex: 1;
}
.editor :deep(.cm-editor) {
  height: 100%;
  font-size: 13px;
  background: var(--card);
  color: var(--ink);
}
.editor :deep(.cm-scroller) {
  font-family: 'DejaVu Sans Mono', ui-monospace, Menlo, Consolas, monospace;
  line-height: 1.55;
}
.editor :deep(.cm-gutters) {
  background: var(--paper);
  border-right-color: var(--line);
  color: var(--ink-soft);
}
.editor :deep(.cm-activeLine),
.editor :deep(.cm-activeLineGutter) {
  background: color-mix(in srgb, var(--olive) 9%, transparent);
}
.editor :deep(.cm-cursor) {
  border-left-color: var(--ink);
}
.editor :deep(.cm-tooltip) {
  background: var(--card);
  border-color: var(--line);
  color: var(--ink);
}
.editor :deep(.cm-focused) {
  outline: none;
}
</style>
