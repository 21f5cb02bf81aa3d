import { partOfSpeechAt, type PartOfSpeech } from '#core/words/part-of-speech'

// Sentences of our own, each with the part of speech that English grammars give the word between the stars.
const rows: readonly (readonly [PartOfSpeech, ...string[]])[] = [
  ['verb', 'I *refuse* to go.', 'I will *read* it.', 'They *lead* the way.', 'You *wind* the clock.', 'They *tear* it up.', 'They *live* here.', '*Close* the door.', 'Please *record* it.', 'They *object* to it.', 'We *present* it.', 'I *use* it.',
    'They *polish* the glass.', 'They *desert* the hive.', 'They *sow* clover.', 'They came to *perfect* it.', 'They *bow* to her.', 'They *estimate* it.', '*Separate* the frames.', 'They *produce* honey.', '*Use* a smoker.', 'The queen *lives* in the hive.',
    'The bees *live* in the hive.', 'Most bees *live* for six weeks.', 'The drones *lead* the swarm away.', 'He *tears* the paper.', 'Do not *close* the entrance.', 'Do not *subject* them to cold.', 'Stores *increase* in May.', 'Muscles *contract* in the cold.',
    'Could you *present* the results?', 'You must *permit* it.', 'We *resume* at noon.', 'Bees *supply* the queen with food.', 'It has elements that *lead* to war.'],
  ['noun', 'The *refuse* was burnt.', 'It is a pipe of *lead*.', 'The *lead* pipe broke.', 'The *wound* healed.', 'A strong *wind* blew.', 'A *tear* fell.', 'It is the *content* of the hive.', 'It came one *minute* later.', 'There is a *number* of bees.',
    'They are the *bases* of the columns.', 'The *record* was broken.', 'It is an *object* of glass.', 'The *use* of smoke helps.', 'The *desert* is dry.', 'The *sow* had piglets.', 'It is the *bow* of the ship.', 'The *estimate* was high.', 'It is the *entrance* of the hive.',
    'Their *lives* are short.', 'In the *wind* they fly low.', 'There were *tears* in her eyes.', 'The *winds* of March are cold.', 'It has three *uses* of wax.', 'What is the *object* of this?', 'He signed a *contract* with us.', '*Lead* is heavy.', 'Wait a *minute*.', 'She gave me a *present*.',
    'You need a *permit*.', 'The *dove* flew away.', 'Send me your *resume*.', 'At *present* it is dry.', 'It goes to its best *use*.', 'We saw the *supply* of sugar.', '*Reading* is fun.'],
  ['past', 'He has *read* it.', 'She *read* it yesterday.', 'He *wound* the clock.', 'He *learned* it.', 'He *blessed* them.', 'He *aged* quickly.', 'They had *read* the book.', 'The letter was *read* by all.', 'She has *learned* a lot.', 'The priest *blessed* the hives.', 'He *dove* into the lake.'],
  ['adjective', 'The bees were *live*.', 'She was *content* with it.', 'They stood *close* to it.', 'It is a *minute* amount.', 'The *learned* professor spoke.', 'It is a *blessed* day.', 'He is an *aged* man.', 'My hand grew *number*.', 'It is a *perfect* day.', 'It is a *separate* hive.', 'It was a *close* call.',
    'The *blessed* rain came.', '*Close* to our boat it sank.', '*Polish* honey is good.'],
  ['name', 'We went to *Nice* in June.', '*Job* was a patient man.', 'He moved to *Reading* last year.', '*Reading* is a town in England.'],
]

test.each(rows.flatMap(([part, ...sentences]) => sentences.map(sentence => [part, sentence] as const)))('%s: %s', (part, sentence) => {
  const [before, word = ''] = sentence.split('*') as [string, string]
  expect(partOfSpeechAt(sentence.replaceAll('*', ''), before.length, before.length + word.length, 'en-GB')).toBe(part)
})

test('is not told in another language', () => {
  expect(partOfSpeechAt('Die Bienen', 4, 10, 'de')).toBeNull()
})
