<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { basicSetup, EditorView } from 'codemirror'
import { html } from '@codemirror/lang-html'
import { css } from '@codemirror/lang-css'
import { json } from '@codemirror/lang-json'
import type { Extension } from '@codemirror/state'

const props = defineProps<{ modelValue: string; file: string }>()
const emit = defineEmits<{ 'update:modelValue': [string] }>()
const host = ref<HTMLElement>()
let view: EditorView | undefined

function language(name: string): Extension[] {
  if (name.endsWith('.css')) return [css()]
  if (name.endsWith('.json')) return [json()]
  if (/\.(html?|svg|xml)$/.test(name)) return [html()]
  return []
}

function start() {
  view?.destroy()
  view = new EditorView({
    doc: props.modelValue,
    parent: host.value,
    extensions: [
      basicSetup,
      ...language(props.file),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': props.file }),
      EditorView.updateListener.of((u) => {
        if (u.docChanged) emit('update:modelValue', u.state.doc.toString())
      }),
    ],
  })
}

onMounted(start)
watch(() => props.file, start)
watch(() => props.modelValue, (text) => {
  if (view && text !== view.state.doc.toString()) start()
})
onBeforeUnmount(() => view?.destroy())
</script>

<template><div ref="host" class="editor" /></template>

<style scoped>
.editor { height: 100%; min-height: 0; }
.editor :deep(.cm-editor) { height: 100%; font-size: 13px; }
.editor :deep(.cm-scroller) { font-family: 'DejaVu Sans Mono', ui-monospace, Menlo, Consolas, monospace; line-height: 1.55; }
.editor :deep(.cm-gutters) { background: #fbfaf6; border-right-color: var(--line); color: #8c8f80; }
.editor :deep(.cm-focused) { outline: none; }
</style>
