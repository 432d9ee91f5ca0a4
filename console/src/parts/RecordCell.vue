<script setup lang="ts">
// A value of a record that is changed in its place.
const props = defineProps<{ value: unknown; label: string; editable: boolean }>()
const emit = defineEmits<{ typed: [string]; pasted: [string] }>()

const shown = () => String(props.value ?? '')
function leave(e: Event) {
  const typed = (e.target as HTMLElement).innerText.trim()
  if (typed !== shown()) emit('typed', typed)
}
/** Several cells at once go to the table; a text goes into this one. */
function paste(e: ClipboardEvent) {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  if (!/[\t\n]/.test(text.trimEnd())) return
  e.preventDefault()
  emit('pasted', text)
}
function giveUp(e: Event) {
  const cell = e.target as HTMLElement
  cell.innerText = shown()
  cell.blur()
}
</script>

<template>
  <div
    class="field"
    :contenteditable="editable ? 'plaintext-only' : 'false'"
    spellcheck="false"
    role="textbox"
    :aria-label="label"
    @blur="leave"
    @paste="paste"
    @keydown.enter.prevent="($event.target as HTMLElement).blur()"
    @keydown.escape.prevent="giveUp"
  >
    {{ value }}
  </div>
</template>

<style scoped>
.field {
  border-radius: 4px;
  padding: 0 3px;
  margin: 0 -3px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  min-height: 1.4em;
}
.field:focus {
  outline: 2px solid var(--olive);
  white-space: normal;
  text-overflow: clip;
  background: var(--paper);
}
</style>
