<script setup lang="ts">
import { Editor, EditorContent } from '@tiptap/vue-3'
import { Extension } from '@tiptap/core'
import type { HouseStyle } from '#core/style/house-style'
import type { Content } from '#core/script/content'
import type { Page } from '#shared/api'
import { takeOver, toContent, toDocument } from '~/editor/convert'
import { FixedPassages } from '~/editor/fixed-passages'
import { OverlayExtension, overlayKey, type Overlay } from '~/editor/overlay'
import { LeftOutMark, PartDocument, PassageNode, WrittenText } from '~/editor/schema'

// The text of one part: edited in place, with its rests and the sentence that sounds drawn over it.

const props = defineProps<{ page: Page, loadTick: number, houseStyle: HouseStyle, lit: number | null }>()
const emit = defineEmits<{
  edit: [passageId: string, content: Content]
  /** The utterance and the passage the caret is in. */
  caret: [utterance: number | null, passageId: string | null]
  hear: [utterance: number, onwards: boolean]
  leave: []
  step: [direction: 'undo' | 'redo']
}>()

const Keys = Extension.create({
  name: 'keys',
  addKeyboardShortcuts: () => ({
    'Mod-Enter': () => hear(false),
    'Shift-Mod-Enter': () => hear(true),
    'Mod-z': () => step('undo'),
    'Mod-y': () => step('redo'),
    'Shift-Mod-z': () => step('redo'),
    'Escape': () => {
      editor.commands.blur()
      emit('leave')
      return true
    },
  }),
})

const editor = new Editor({
  extensions: [PartDocument, WrittenText, PassageNode, LeftOutMark, FixedPassages, OverlayExtension, Keys],
  content: toDocument(props.page.passages),
  editorProps: { attributes: { 'aria-label': 'Text of this part', 'spellcheck': 'false', 'role': 'textbox', 'aria-multiline': 'true' } },
  onUpdate: ({ transaction }) => {
    if (transaction.getMeta('load') === true) return
    transaction.doc.forEach((node, _, index) => {
      if (!node.eq(transaction.before.child(index))) emit('edit', String(node.attrs.id), toContent(node))
    })
  },
  onSelectionUpdate: () => {
    const { utterance, passageId } = atCaret()
    emit('caret', utterance, passageId)
  },
})

watch(() => props.loadTick, () => {
  editor.view.dispatch(takeOver(editor.state, props.page.passages).setMeta('load', true))
  drawOverlay()
})
watch(() => [props.page.utterances, props.houseStyle, props.lit], drawOverlay)
onMounted(drawOverlay)
onBeforeUnmount(() => editor.destroy())

watch(() => props.lit, () => void nextTick(() => {
  editor.view.dom.querySelector('.lit')?.scrollIntoView({ block: 'nearest' })
}))

function drawOverlay(): void {
  const overlay: Overlay = {
    style: props.houseStyle, utterances: props.page.utterances, lit: props.lit,
    markStale: props.page.part.state === 'stale' || props.page.part.state === 'partly',
  }
  editor.view.dispatch(editor.state.tr.setMeta(overlayKey, overlay))
}

function atCaret(): { utterance: number | null, passageId: string | null } {
  const { $head } = editor.state.selection
  if ($head.depth === 0) return { utterance: null, passageId: null }
  const passageId = String($head.parent.attrs.id)
  const own = props.page.utterances.map((utterance, index) => ({ utterance, index })).filter(({ utterance }) => utterance.passageId === passageId)
  const found = own.find(({ utterance }) => $head.parentOffset <= utterance.end) ?? own.at(-1)
  return { utterance: found?.index ?? null, passageId }
}

function step(direction: 'undo' | 'redo'): boolean {
  emit('step', direction)
  return true
}

function hear(onwards: boolean): boolean {
  const { utterance } = atCaret()
  if (utterance !== null) emit('hear', utterance, onwards)
  return true
}
</script>

<template>
  <EditorContent :editor="editor" class="script-text" />
</template>

<style>
.script-text { max-width: 660px; margin: 0 auto; padding: 26px 24px 60px 64px; }
.script-text .ProseMirror { outline: none; }
.script-text .passage {
  position: relative;
  margin: 0;
  padding-top: var(--rest-gap, 0);
  font-family: var(--serif);
  font-size: 18px;
  line-height: 1.78;
}
.script-text .passage-title { font-size: 26px; font-weight: 600; line-height: 1.3; }
.script-text .passage-heading { font-size: 19px; font-weight: 600; }
.script-text .passage-listItem { padding-left: 20px; }
.script-text .passage-listItem::after {
  content: ''; position: absolute; left: 3px; top: calc(var(--rest-gap, 0px) + 14px);
  width: 7px; border-top: 1.5px solid var(--quiet);
}
.script-text .passage-quotation { padding-left: 18px; font-style: italic; }
.script-text .passage-quotation::after {
  content: ''; position: absolute; left: 0; top: calc(var(--rest-gap, 0px) + 5px); bottom: 4px; border-left: 2px solid var(--line);
}
.script-text .passage-tableRow { border-top: 1px dotted var(--line); }
.script-text .passage[data-rest]::before {
  content: attr(data-rest);
  position: absolute; left: -46px; top: calc(var(--rest-gap) / 2 - var(--bracket) / 2);
  width: 40px; height: var(--bracket);
  border: solid var(--line); border-width: 1.5px 0 1.5px 1.5px;
  border-image: linear-gradient(90deg, rgb(var(--v-theme-quiet)) 7px, transparent 7px) 1;
  padding-left: 12px; box-sizing: border-box;
  font: 500 11.5px/1 var(--sans); color: var(--quiet);
  display: flex; align-items: center;
}
.script-text .passage[data-rest='0']::before { content: none; }
.script-text .passage[data-rest-broken]::before { border-left-style: dashed; }
.script-text .lit { background: var(--lit); box-shadow: 0 0 0 2px var(--lit); border-radius: 2px; }
.script-text .stale-sentence { background: var(--stale-wash); }
.script-text .left-out { color: var(--quiet); }
@media (max-width: 639px) { .script-text { padding: 16px 12px 40px 50px; } }
</style>
