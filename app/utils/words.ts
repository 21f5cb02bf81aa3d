import type { EditKind, EditStep, PartState } from '#shared/api'
import type { DropKind } from '#core/manuscript/manuscript'
import type { PartKind, PassageKind } from '#core/script/script'
import type { NarratorReason } from '#core/style/narrator-check'
import type { CensusReason } from '#core/words/census'
import type { PartOfSpeech } from '#core/words/part-of-speech'

// The words the interface uses for the values of the core.

export const kindNames: Readonly<Record<PassageKind, string>> = {
  title: 'Title', heading: 'Heading', paragraph: 'Paragraph', listItem: 'List item', quotation: 'Quotation', tableRow: 'Table row', note: 'Note', sceneBreak: 'Scene break',
}

/** What parts of speech are called, with what they hold. */
export const speechNames: Readonly<Record<PartOfSpeech, string>> = { noun: 'noun', verb: 'verb', past: 'past, participle', adjective: 'adjective, adverb', name: 'name' }

export const stateNames: Readonly<Record<PartState, string>> = {
  unread: 'not read', beingRead: 'being read', partly: 'partly read', read: 'read', stale: 'stale', silent: 'nothing to read',
}

const editNames: Readonly<Record<EditKind, string>> = {
  text: 'text', name: 'name', inclusion: 'leave out', order: 'order', merge: 'join', split: 'divide', division: 'new division', version: 'new version of the manuscript',
  passage: 'passage', passages: 'passages', dialogue: 'roles of the dialogue', replacement: 'replacement', style: 'house style', word: 'wordbook', decision: 'decision', take: 'choice of a take', houseStyle: 'choice of the house style',
}

/** An edit as it is named where it can be undone: `wordbook: Varroa`, `rest after headings`. */
export function editName({ kind, subject }: EditStep): string {
  if (subject === null) return editNames[kind]
  return kind === 'style' ? subject : `${editNames[kind]}: ${subject}`
}

export const partNames: Readonly<Record<PartKind, string>> = {
  chapter: 'Chapter', slide: 'Slide', hint: 'Hint', article: 'Article', frontMatter: 'Front matter', backMatter: 'Back matter',
}

export { directionNames } from '#core/script/direction-text'

/** One and many of what is not read. */
export const dropNames: Readonly<Record<DropKind, readonly [string, string]>> = {
  'hidden': ['hidden text', 'hidden texts'], 'deleted': ['deleted text', 'deleted texts'], 'comment': ['comment', 'comments'], 'contents': ['line of contents', 'lines of contents'],
  'running-head': ['running head', 'running heads'], 'page-number': ['page number', 'page numbers'], 'link-target': ['link target', 'link targets'],
  'footnote': ['footnote', 'footnotes'], 'footnote-mark': ['footnote mark', 'footnote marks'], 'code': ['block of code', 'blocks of code'],
  'navigation': ['text around the article', 'texts around the article'], 'image': ['image description', 'image descriptions'], 'table': ['table row', 'table rows'],
  'front-matter': ['block of metadata', 'blocks of metadata'], 'slide-text': ['text on a slide', 'texts on slides'], 'notes': ['speaker note', 'speaker notes'], 'title-page': ['line of the title page', 'lines of the title page'],
  'heading-number': ['number of a heading', 'numbers of headings'],
}

/** What a file dialog offers: the endings of every format that can be read. */
export const readableEndings = '.pdf,.epub,.odt,.ott,.pptx,.pptm,.ppsx,.docx,.docm,.zip,.ssml,.rss,.atom,.xml,.json,.csv,.tsv,.tab,.md,.markdown,.mdown,.mkd,.html,.htm,.xhtml,.txt,.text'

/** Why an entry of the census is listed. */
export const reasonNames: Readonly<Record<CensusReason, string>> = {
  'spelt-out': 'Spelt out by the voice', 'unknown-word': 'Not in the dictionary', 'said-otherwise': 'Said otherwise than the dictionary', 'rule-in-doubt': 'A rule was not sure', 'said-by-rule': 'Decided by a rule', 'heteronym': 'Two pronunciations', 'acronym': 'Acronym', 'number': 'Number', 'date': 'Date', 'roman-numeral': 'Roman numeral', 'symbol': 'Symbol or address',
  'foreign': 'Other language', 'long-sentence': 'Long sentence', 'all-capitals': 'All capitals',
}

/** What the narrator check finds. */
export const narratorNames: Readonly<Record<NarratorReason, string>> = {
  'first-person-plural': 'We and us', 'aside': 'Aside', 'idle-phrase': 'Idle phrase', 'abbreviation': 'Abbreviation', 'long-sentence': 'Long sentence', 'table': 'Table', 'list-in-sentence': 'List in a sentence', 'unseen-reference': 'Not to be seen',
}
