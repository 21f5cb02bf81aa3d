<script setup lang="ts">
import { autocompletion, closeBrackets, closeBracketsKeymap, completionKeymap, type Completion } from '@codemirror/autocomplete'
import { defaultKeymap, history as textHistory, historyKeymap, indentWithTab } from '@codemirror/commands'
import { xml, type ElementSpec } from '@codemirror/lang-xml'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { linter, type Diagnostic } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { drawSelection, EditorView, keymap, lineNumbers } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { sayAsKinds } from '#core/language/say-as'
import type { Surroundings } from '#core/score/support'
import { checkSsml, placed, type PlacedProblem, type SsmlProblem } from '#core/script/ssml/check'
import { ssmlElements } from '#core/script/ssml/elements'
import { readSsml, type SsmlPassage } from '#core/script/ssml/read'
import { unsupported } from '#core/script/ssml/unsupported'
import { pitchNames, rangeNames, rateNames, volumeNames } from '#core/script/ssml/values'
import { count } from '~/utils/format'

// SSML of a piece of the script: checked while it is typed; what is valid flows back to the page.

const props = defineProps<{ source: string, scope: 'passage' | 'part' | 'selection', surroundings: Surroundings, roles: readonly string[] }>()
const emit = defineEmits<{ change: [passages: readonly SsmlPassage[]], scope: [scope: 'passage' | 'part' | 'selection'], close: [] }>()

const host = ref<HTMLElement | null>(null)
const problems = ref<readonly PlacedProblem[]>([])
const state = ref<'same' | 'waiting' | 'taken' | 'refused'>('same')
let view: EditorView | null = null
/** What was written out last, and is not to be taken over. */
let shown = ''
const takeOverMs = 500
let timer: ReturnType<typeof setTimeout> | null = null

interface Judged {
  readonly found: readonly SsmlProblem[]
  readonly passages: readonly SsmlPassage[] | null
}

function judge(text: string): Judged {
  const { root, source, problems: found } = checkSsml(text, { fragmentLanguage: props.surroundings.language })
  if (root === null) return { found, passages: null }
  const shift = source.length - text.length - (source.length > text.length ? '</speak>'.length : 0)
  const read = readSsml(root, source)
  const moved = read.lost.map(problem => ({ ...problem, offset: Math.max(0, problem.offset - shift) })).filter(problem => shift === 0 || problem.offset > 0 || source === text)
  const all = [...found, ...moved, ...unsupported(root, source, props.surroundings, shift)]
  const several = props.scope !== 'part' && read.passages.length > 1
  if (several) all.push({ severity: 'error', code: 'ssml-several', message: 'This is one passage. Show the whole part to make several of it.', offset: 0 })
  return { found: all.sort((a, b) => a.offset - b.offset), passages: all.some(problem => problem.severity === 'error') ? null : read.passages }
}

function lint(editor: EditorView): Diagnostic[] {
  const text = editor.state.doc.toString()
  const { found, passages } = judge(text)
  problems.value = placed(text, found)
  if (text !== shown) settle(text, passages)
  return found.map(problem => {
    const from = Math.min(text.length, problem.offset)
    const length = /^<\/?[^\s<>/]+|^[^\s=<>]+/u.exec(text.slice(from))?.[0].length ?? 1
    return { from, to: Math.min(text.length, from + length), severity: problem.severity === 'note' ? 'info' : problem.severity, message: problem.message }
  })
}

function settle(text: string, passages: readonly SsmlPassage[] | null): void {
  if (timer !== null) clearTimeout(timer)
  timer = null
  if (passages === null) {
    state.value = 'refused'
    return
  }
  state.value = 'waiting'
  timer = setTimeout(() => {
    shown = text
    state.value = 'taken'
    emit('change', passages)
  }, takeOverMs)
}

// Completion knows SSML 1.1 and what the voice can do.

const cannot = 'not with this voice'
const values: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  'say-as': { 'interpret-as': sayAsKinds }, 'prosody': { rate: rateNames, pitch: pitchNames, range: rangeNames, volume: volumeNames },
  'phoneme': { alphabet: ['ipa'] }, 'break': { time: ['200ms', '500ms', '1s'] },
}
const elements: ElementSpec[] = Object.entries(ssmlElements).map(([name, rule]) => ({
  name,
  top: true,
  children: [...rule.children],
  completion: { type: 'type', ...(['audio', 'lexicon', 'lookup', 'mark', 'meta', 'metadata', 'token', 'w'].includes(name) ? { detail: cannot } : {}) } satisfies Partial<Completion>,
  attributes: Object.entries(rule.attributes).map(([attribute, { legal }]) => ({
    name: attribute,
    values: [...(values[name]?.[attribute] ?? (attribute === 'xml:lang' ? props.surroundings.languages ?? [] : /^[\w, -]+$/u.test(legal) && legal.includes(', ') ? legal.split(', ').filter(each => each !== 'nothing') : []))],
    completion: { type: 'property', ...(name === 'prosody' && ['contour', 'duration'].includes(attribute) ? { detail: cannot } : {}) } satisfies Partial<Completion>,
  })),
}))

const colours = HighlightStyle.define([
  { tag: tags.tagName, color: 'var(--verdigris)', fontWeight: '600' }, { tag: tags.attributeName, color: 'var(--dusk)' },
  { tag: tags.attributeValue, color: 'var(--ochre)' }, { tag: [tags.angleBracket, tags.processingInstruction, tags.comment], color: 'var(--quiet)' },
  { tag: tags.character, color: 'var(--vermilion)' },
])

onMounted(() => {
  shown = props.source
  view = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: props.source,
      extensions: [
        lineNumbers(), textHistory(), drawSelection(), closeBrackets(), EditorView.lineWrapping, syntaxHighlighting(colours),
        xml({ elements, attributes: [{ name: 'quill:kind', global: false }, { name: 'quill:role', global: false, values: [...props.roles] }] }), autocompletion(),
        linter(lint, { delay: 150 }),
        keymap.of([...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...defaultKeymap, indentWithTab]),
        EditorView.contentAttributes.of({ 'aria-label': 'SSML', 'spellcheck': 'false' }),
      ],
    }),
  })
  view.focus()
})
onBeforeUnmount(() => {
  if (timer !== null) clearTimeout(timer)
  view?.destroy()
})

watch(() => props.source, source => {
  // What comes back of one's own change is another way to write the same: it does not move under the fingers.
  if (view === null || state.value === 'waiting' || state.value === 'taken' && view.hasFocus) return
  shown = source
  state.value = 'same'
  view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: source } })
})

function goTo({ line, column }: PlacedProblem): void {
  const at = view!.state.doc.line(Math.min(line, view!.state.doc.lines))
  const text = [...at.text].slice(0, column - 1).join('')
  view!.dispatch({ selection: { anchor: Math.min(at.to, at.from + text.length) }, scrollIntoView: true })
  view!.focus()
}

const errors = computed(() => problems.value.filter(problem => problem.severity === 'error').length)
const status = computed(() => ({
  same: 'As on the page', waiting: 'Taking over …', taken: 'Taken over to the page', refused: `Not taken over: ${count(errors.value, 'error')} to mend`,
})[state.value])
const scopes = [{ value: 'passage', title: 'This passage' }, { value: 'selection', title: 'The selection' }, { value: 'part', title: 'The whole part' }] as const
</script>

<template>
  <section class="ssml-view" aria-label="SSML view" @keydown.esc="emit('close')">
    <header>
      <label>SSML of <select :value="scope" aria-label="SSML of" @change="emit('scope', ($event.target as HTMLSelectElement).value as 'part')"><option v-for="each in scopes" :key="each.value" :value="each.value">{{ each.title }}</option></select></label>
      <span class="status" :class="{ refused: state === 'refused' }" role="status">{{ status }}</span>
      <v-btn size="small" @click="emit('close')">Back to the page</v-btn>
    </header>
    <div ref="host" class="source" />
    <footer v-if="problems.length > 0" aria-label="Problems">
      <ul>
        <li v-for="(problem, index) in problems" :key="index">
          <button type="button" @click="goTo(problem)">
            <span class="mono">{{ problem.line }}:{{ problem.column }}</span> <b :class="problem.severity">{{ problem.severity === 'error' ? 'Error' : problem.severity === 'warning' ? 'Warning' : 'Note' }}</b> {{ problem.message }}
          </button>
        </li>
      </ul>
    </footer>
  </section>
</template>

<style scoped>
.ssml-view { display: flex; flex-direction: column; min-height: 0; flex: 1; }
header { display: flex; align-items: center; gap: 14px; padding: 8px 20px; border-bottom: 1px solid var(--line); font-size: 14.5px; flex-wrap: wrap; }
header label { color: var(--quiet); }
header select { font: inherit; color: var(--ink); background: var(--paper); border: 1px solid var(--line); border-radius: 3px; padding: 2px 6px; }
.status { flex: 1; color: var(--quiet); }
.status.refused { color: var(--vermilion); font-weight: 600; }
.source { flex: 1; min-height: 0; overflow: auto; }
.source :deep(.cm-editor) { height: 100%; font-size: 14px; background: var(--sheet); color: var(--ink); }
.source :deep(.cm-scroller) { font-family: var(--mono); line-height: 1.65; }
.source :deep(.cm-content) { caret-color: var(--ink); }
.source :deep(.cm-cursor) { border-left-color: var(--ink); }
.source :deep(.cm-gutters) { background: var(--paper); color: var(--quiet); border-right: 1px solid var(--line); }
.source :deep(.cm-selectionBackground) { background: var(--lit) !important; }
.source :deep(.cm-focused) { outline: none; }
.source :deep(.cm-tooltip) { background: var(--sheet); color: var(--ink); border: 1px solid var(--gall); border-radius: 4px; font-family: var(--sans); }
.source :deep(.cm-tooltip-autocomplete ul li[aria-selected]) { background: var(--lit); color: var(--ink); }
.source :deep(.cm-diagnostic) { font-size: 13.5px; max-width: 480px; border-left-color: var(--vermilion); }
.source :deep(.cm-lintRange-error) { background: none; text-decoration: underline wavy var(--vermilion) 1px; text-underline-offset: 4px; }
.source :deep(.cm-lintRange-warning) { background: none; text-decoration: underline wavy var(--ochre) 1px; text-underline-offset: 4px; }
.source :deep(.cm-lintRange-info) { background: none; text-decoration: underline dotted var(--quiet) 1px; text-underline-offset: 4px; }
footer { max-height: 34%; overflow-y: auto; border-top: 1px solid var(--line); background: var(--paper); }
footer ul { list-style: none; margin: 0; padding: 6px 12px; }
footer button { border: 0; background: none; font: inherit; font-size: 14px; line-height: 1.45; color: var(--ink); text-align: left; padding: 3px 8px; cursor: pointer; }
footer button:hover { background: var(--lit); }
.error { color: var(--vermilion); }
.warning { color: var(--ochre); }
.note { color: var(--quiet); }
</style>
