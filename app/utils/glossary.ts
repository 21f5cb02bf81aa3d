// The words that the interface uses, and the way through the work, as the help tells them.

export const glossary: readonly (readonly [word: string, meaning: string])[] = [
  ['Production', 'One job: a book, a course, a batch of articles. It stands on the shelf.'],
  ['Edition', 'A production in one language.'],
  ['Part', 'What is narrated by itself: a chapter, a slide, a hint, an article.'],
  ['Passage', 'One block of a part: a paragraph, a heading, a list item, a quotation, a note.'],
  ['Script', 'The text as it will be spoken from, with its directions.'],
  ['Direction', 'What the script tells the voice at a place: a rest, emphasis, a pronunciation, a sound.'],
  ['Rest', 'Silence of an exact length.'],
  ['Written and spoken form', 'What stands in the text, and the words that are spoken for it: 12 kg, twelve kilograms.'],
  ['House style', 'Rests and rules that make spoken forms of written ones. Several productions can have the same.'],
  ['Wordbook', 'How words are said, for this production or for all.'],
  ['Census', 'Every word and sign of the script that the voice may say wrong.'],
  ['Cast, role', 'Who speaks: the narrator and others, each with a voice, a pace, a pitch and a volume.'],
  ['Reading', 'Making the audio of every sentence that has none yet. Deliveries are made of it.'],
  ['Take', 'The audio of one sentence. It stays until the sentence, its pronunciation or its voice changes.'],
  ['Stale', 'Changed since it was read or delivered: only that is made again.'],
  ['Run sheet', 'The list of the files that a delivery will have, with names, lengths and sizes.'],
  ['Profile', 'What files are made as: format, loudness, silence at both ends, names.'],
  ['Delivery', 'Files made by a profile, kept with a report on how they keep to it.'],
]

export const tour: readonly (readonly [stage: string, what: string])[] = [
  ['Shelf', 'Drop a document, a deck or a batch of articles there. Each becomes a production.'],
  ['Intake', 'See what was found in the document, choose what is read and where parts begin.'],
  ['Script', 'Read and change the text, hear every sentence at once, put directions to the voice.'],
  ['Words', 'Go through what may be said wrong: set it once, and it is said so everywhere.'],
  ['Cast', 'Choose the voices, their pace and their level.'],
  ['Reading', 'Make the audio of all that is not read yet. Later only what has changed is made again.'],
  ['Delivery', 'Choose a profile, look at the run sheet, make the files, and download them with their report.'],
]
