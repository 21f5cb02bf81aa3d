import { execFileSync } from 'node:child_process'
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { wavHeader } from '#core/audio/wav'
import { checkSsml } from '#core/script/ssml/check'
import { ssmlNamespace } from '#core/script/ssml/elements'
import { decode, rmsDb } from '../../support/audio'
import { temporaryFolder } from '../../support/paths'
import { quillIn } from '../../support/quill'

const folder = temporaryFolder()
const quill = quillIn(folder)

const speak = (body: string): string => `<speak version="1.1" xmlns="${ssmlNamespace}" xml:lang="en-GB">${body}</speak>`
const write = (name: string, text: string): Promise<void> => writeFile(join(folder(), name), text)

describe('quill check', () => {
  test('says nothing about a valid file', async () => {
    await write('good.ssml', speak('<p>One <break time="1s"/>two.</p>'))
    expect(await quill('check', 'good.ssml')).toEqual({ code: 0, out: '', error: '' })
  })

  test('prints line, column, code and message of each problem, and ends with 1 when there is an error', async () => {
    await write('bad.ssml', speak('\n<p>One <break time="5"/>\n  <foo/></p>'))
    const { code, out } = await quill('check', 'bad.ssml')
    expect(code).toBe(1)
    expect(out.trim().split('\n').map(line => line.split(' ').slice(0, 2).join(' '))).toEqual(['2:15 ssml-value', '3:3 ssml-element-unknown'])
    const { problems } = JSON.parse((await quill('check', 'bad.ssml', '--json')).out) as { problems: object[] }
    expect(problems).toMatchObject([{ line: 2, column: 15, severity: 'error', code: 'ssml-value' }, { line: 3, column: 3, severity: 'error', code: 'ssml-element-unknown' }])
    expect(Object.keys(problems[0]!)).toEqual(['line', 'column', 'severity', 'code', 'message'])
  })

  test('a voice and sounds that do not exist are told by check and by read, and stop a strict one', async () => {
    await write('nobody.ssml', speak('<p>The <voice name="Nobody">bees</voice> came <phoneme alphabet="ipa" ph="kǃʔɧ">home</phoneme> in <phoneme alphabet="ipa" ph="meɪ">May</phoneme>.</p><p>It was late.</p>'))
    const { code, out } = await quill('check', 'nobody.ssml')
    expect([code, out.trim().split('\n').map(line => line.split(' ')[1])]).toEqual([0, ['voice-cannot', 'voice-cannot']])
    expect(out).toMatch(/No voice has the name “Nobody”[\s\S]*no sound for “ǃ”/u)
    const strict = await quill('read', 'nobody.ssml', '--out', 'strict', '--strict')
    expect([strict.code, strict.error]).toEqual([1, expect.stringMatching(/Nobody[\s\S]*2 things that the script asks for cannot be done by these voices, so nothing was read/u)])
    const read = await quill('read', 'nobody.ssml', '--out', 'loose', '--json')
    expect([read.code, read.error]).toEqual([0, expect.stringMatching(/Nobody.*read by the voice around it.*\n.*“ǃ”.*It says \/t\//u)])
    expect((JSON.parse(read.out) as { files: object[] }).files).toHaveLength(1)
  })

  test('check and read tell the same, whatever a voice cannot do, and a strict reading stops on each', async () => {
    const pieces = [
      '<voice name="Nobody">bees</voice>', '<lang xml:lang="qqx">x y</lang>', '<lang xml:lang="qqy" onlangfailure="ignoretext">x y</lang>', '<prosody rate="20%">slow</prosody>', '<prosody pitch="+20st">high</prosody>', '<prosody pitch="100Hz">deep</prosody>',
      '<prosody volume="+12dB">loud</prosody>', '<prosody contour="(0%,+10Hz)">bent</prosody>', '<prosody duration="2s">long</prosody>', '<phoneme ph="kǃ">click</phoneme>', '<phoneme ph="ʘ"/>', '<phoneme alphabet="x-own" ph="k">own</phoneme>', '<say-as interpret-as="date">soon</say-as>',
    ]
    const messages = (text: string, head: RegExp): string[] => text.trim().split('\n').filter(line => head.test(line)).map(line => line.replace(head, '')).sort()
    await write('all.ssml', speak(`<p>${pieces.join(' and ')} came.</p><p xml:lang="qqz">It was late.</p>`))
    const checked = messages((await quill('check', 'all.ssml')).out, /^\d+:\d+ voice-cannot /u)
    const read = await quill('read', 'all.ssml', '--out', 'all', '--json')
    expect(checked).toHaveLength(pieces.length + 1)
    expect(messages(read.error, /^part 1, “[^”]*”: /u)).toEqual(checked)
    expect((JSON.parse(read.out) as { files: object[] }).files).toHaveLength(1)
    for (const [index, piece] of pieces.slice(0, 4).entries()) {
      await write(`one-${index}.ssml`, speak(`<p>The ${piece} came.</p>`))
      expect(await quill('read', `one-${index}.ssml`, '--out', `one-${index}`, '--strict')).toMatchObject({ code: 1, error: expect.stringContaining('so nothing was read') as string })
    }
  })

  test('warnings alone end with 0', async () => {
    await write('foreign.ssml', speak('<x:a xmlns:x="urn:x">b</x:a>'))
    expect(await quill('check', 'foreign.ssml')).toMatchObject({ code: 0, out: expect.stringContaining('1:') as string })
  })

  test('a fragment is checked as one, and what the voices cannot do is said, also of an engine that is named', async () => {
    await write('piece.ssml', 'One <prosody contour="(0%,+10Hz)">two</prosody> <lang xml:lang="tlh">three</lang> <say-as interpret-as="date" format="dmy">x</say-as>')
    expect((await quill('check', 'piece.ssml')).code).toBe(1)
    const { code, out } = await quill('check', 'piece.ssml', '--fragment')
    expect(code).toBe(0)
    expect(await quill('check', 'piece.ssml', '--fragment', '--engine', 'espeak')).toEqual({ code, out, error: '' })
    expect(out.trim().split('\n').map(line => line.split(' ').slice(0, 2).join(' '))).toEqual(['1:5 voice-cannot', '1:49 voice-cannot', '1:83 voice-cannot'])
  })

  test('a file that is not there, and an engine that there is not, are said', async () => {
    expect(await quill('check', 'nowhere.ssml')).toMatchObject({ code: 1, error: expect.stringContaining('There is no file nowhere.ssml') as string })
    expect((await quill('check', 'good.ssml', '--engine', 'nobody')).code).not.toBe(0)
  })
})

describe('quill script', () => {
  const text = '# One\n\nThe bees *came* home.\n\n- a smoker\n\n# Two\n\n5 < 6 & so on.\n'
  beforeAll(() => write('book.md', text))

  test('SSML is valid, comes back as the same, and is read as it was', async () => {
    const first = await quill('script', 'book.md', '--to', 'ssml')
    expect(checkSsml(first.out).problems).toEqual([])
    await write('book.ssml', first.out)
    expect((await quill('script', 'book.ssml', '--to', 'ssml')).out).toBe(first.out)
    expect((await quill('text', 'book.ssml')).out).toBe((await quill('text', 'book.md')).out)
    const { parts } = JSON.parse((await quill('outline', 'book.ssml', '--json')).out) as { parts: { label: string }[] }
    expect(parts.map(part => part.label)).toEqual(['One', 'Two'])
  }, 60_000)

  test('into a folder, a file for each part, in order, and never over one that is there', async () => {
    await mkdir(join(folder(), 'parts'))
    expect(await quill('script', 'book.md', '--to', 'ssml', '--out', 'parts')).toMatchObject({ code: 0 })
    expect((await readdir(join(folder(), 'parts'))).sort()).toEqual(['01-one.ssml', '02-two.ssml'])
    for (const name of await readdir(join(folder(), 'parts'))) expect(checkSsml(await readFile(join(folder(), 'parts', name), 'utf8')).problems).toEqual([])
    expect(await quill('script', 'book.md', '--to', 'ssml', '--out', 'parts')).toMatchObject({ code: 1, error: expect.stringContaining('exists') as string })
  }, 60_000)

  test('text and Markdown hold the same words; Markdown is read back as the same parts', async () => {
    expect((await quill('script', 'book.md', '--to', 'txt')).out).toBe('One\n\nThe bees came home.\n\na smoker\n\n\nTwo\n\n5 < 6 & so on.\n')
    const { out } = await quill('script', 'book.md', '--to', 'md')
    await write('again.md', out)
    expect((await quill('text', 'again.md')).out).toBe((await quill('text', 'book.md')).out)
  }, 60_000)

  test('the Word document has every passage with its notes, as another program reads it', async () => {
    await write('marked.ssml', speak('<p>The <emphasis level="strong">bees</emphasis> came <break time="300ms"/>home.</p>'))
    expect(await quill('script', 'marked.ssml', '--to', 'docx', '--out', 'check/marked.docx')).toMatchObject({ code: 0 })
    const plain = execFileSync('pandoc', [join(folder(), 'check/marked.docx'), '-t', 'plain', '--wrap=none'], { encoding: 'utf8' }).replace(/\s+/gu, ' ')
    for (const words of ['The bees came home.', 'Emphasis strong: “bees”', 'Rest 300 ms: after “came”']) expect(plain).toContain(words)
  }, 60_000)
})

test('quill read speaks an SSML file with its rests', async () => {
  await write('spoken.ssml', speak('<p>One.<break time="2s"/></p><p>Two.</p>'))
  await write('quick.ssml', speak('<p>One.<break time="100ms"/></p><p>Two.</p>'))
  const lengths = []
  for (const name of ['spoken', 'quick']) {
    const { out } = await quill('read', `${name}.ssml`, '--out', name, '--json')
    lengths.push((JSON.parse(out) as { files: { durationMs: number }[] }).files[0]!.durationMs)
  }
  expect(lengths[0]! - lengths[1]!).toBeCloseTo(1900, 0)
}, 60_000)

describe('sounds', () => {
  const plan = async (body: string, ...flags: string[]): Promise<{ readonly ms: number, readonly error: string }> => {
    await write('ring.ssml', speak(body))
    const { out, error } = await quill('plan', 'ring.ssml', '--house-style', 'plain', '--json', ...flags)
    return { ms: (JSON.parse(out) as { totals: { durationMs: number } }).totals.durationMs, error }
  }
  beforeAll(async () => {
    await mkdir(join(folder(), 'sounds'))
    const bell = Buffer.concat([wavHeader(11_025, 22_050), Buffer.alloc(22_050, 1)])
    await writeFile(join(folder(), 'bell.wav'), bell)
    await writeFile(join(folder(), 'sounds/gong.wav'), bell)
  })

  test('beside the document, or in a folder that is named, are played', async () => {
    const { ms } = await plan('<p>The bell rang.</p>')
    expect(await plan('<p>The bell <audio src="bell.wav"/>rang.</p>')).toEqual({ ms: ms + 500, error: '' })
    expect(await plan('<p>The bell <audio src="gong.wav" clipEnd="100ms"/>rang.</p>', '--sounds', 'sounds')).toEqual({ ms: ms + 100, error: '' })
  })

  test('that are not there, are no sounds, or lie elsewhere are left out, and that is said', async () => {
    const { ms } = await plan('<p>The bell rang.</p>')
    const { ms: without, error } = await plan('<p>The bell <audio src="gong.wav"/>rang.<audio src="ring.ssml"/><audio src="../../etc/hostname"/><audio src="http://example.org/a.wav"/></p>')
    expect(without).toBe(ms)
    expect(error.trim().split('\n').map(line => line.replace(/ in \/.*?\. /u, '. '))).toEqual([
      'The sound “gong.wav” is left out. There is no such file. Put it there, or name the folder with --sounds.',
      'The sound “ring.ssml” is left out. ring.ssml is no sound that can be read. Bring in WAV, FLAC, MP3, Ogg, M4A or AIFF.',
      'The sound “../../etc/hostname” is left out. There is no such file. Put it there, or name the folder with --sounds.',
      'The sound “http://example.org/a.wav” is left out. There is no such file. Put it there, or name the folder with --sounds.',
    ])
  })
})

test('a profile lowers the noise of the recordings that a script plays, and leaves the voice alone', async () => {
  const recorded = ['-f', 'lavfi', '-i', 'anoisesrc=color=pink:amplitude=0.02:seed=2:duration=2:sample_rate=22050', '-f', 'lavfi', '-i', 'sine=frequency=300:duration=2:sample_rate=22050']
  execFileSync('ffmpeg', ['-v', 'error', ...recorded, '-filter_complex', '[1]adelay=1000[late];[0][late]amix=normalize=0:duration=first', join(folder(), 'recorded.wav')])
  await write('guest.ssml', speak('<p><audio src="recorded.wav"/> So far our guest, who came from the next village.</p>'))
  await write('quiet.json', JSON.stringify({ version: 1, from: 'archive-wav', bits: 16, denoiseDb: 15 }))
  const read = async (profile: string): Promise<Int16Array> => {
    const { error } = await quill('read', 'guest.ssml', '--profile', profile, '--out', `with-${profile}`)
    expect(error).toContain('1 file: all pass')
    return decode(join(folder(), `with-${profile}/01-guest.wav`))
  }
  const [plain, less] = [await read('archive-wav'), await read('quiet.json')]
  const rate = 48_000
  expect(less.length).toBe(plain.length)
  const noise = (samples: Int16Array): number => rmsDb(samples.subarray(0.6 * rate, 1.4 * rate))
  expect(Math.abs(noise(plain) - noise(less) - 15)).toBeLessThan(1.5)
  const voice = (samples: Int16Array): Int16Array => samples.subarray(3.5 * rate, 5 * rate)
  expect(rmsDb(voice(plain))).toBeGreaterThan(-30)
  expect(rmsDb(voice(plain).map((sample, at) => sample - voice(less)[at]!))).toBeLessThan(-90)
})

describe('words and style', () => {
  beforeAll(async () => {
    await write('mites.md', '# Mites\n\nA varroa came to us. The XQZ saw it.\n')
    await write('words.csv', 'written,how,said\nvarroa,respelling,vuh-ROH-uh\nXQZ,letters,\nskep,sung,x\n')
    await write('more.pls', '<lexicon version="1.0" xmlns="http://www.w3.org/2005/01/pronunciation-lexicon" alphabet="ipa" xml:lang="en"><lexeme><grapheme>varroa</grapheme><alias>mite</alias></lexeme><lexeme><grapheme>saw</grapheme><alias>noticed</alias></lexeme></lexicon>')
  })

  test('quill spoken prints the text as it is spoken; the first wordbook counts most, and what cannot be used is said', async () => {
    const { out, error } = await quill('spoken', 'mites.md', '--wordbook', 'words.csv', '--wordbook', 'more.pls')
    expect(out).toBe('Mites\nA varroa came to us. The XQZ noticed it.\n')
    expect(error).toContain('words.csv:4:1 “sung” is no way to say a word')
    expect((await quill('spoken', 'mites.md', '--wordbook', 'more.pls')).out).toContain('A mite came')
  })

  test('as JSON it has the map, which covers the spoken text and names the rule of each change', async () => {
    const { passages } = JSON.parse((await quill('spoken', 'mites.md', '--wordbook', 'more.pls', '--json')).out) as {
      passages: { part: number, kind: string, written: string, spoken: string, map: { written: [number, number], spoken: [number, number], rule?: string }[] }[]
    }
    const { written, spoken, map } = passages[1]!
    expect(map.map(group => [written.slice(...group.written), spoken.slice(...group.spoken), group.rule])).toEqual([
      ['A ', 'A ', undefined], ['varroa', 'mite', 'wordbook 1'], [' came to us. The XQZ ', ' came to us. The XQZ ', undefined], ['saw', 'noticed', 'wordbook 2'], [' it.', ' it.', undefined],
    ])
  })

  test('another wordbook makes other files; a wordbook that is none ends with 1 and its place', async () => {
    const plan = async (...flags: string[]): Promise<number> => (JSON.parse((await quill('plan', 'mites.md', '--json', ...flags)).out) as { totals: { characters: number } }).totals.characters
    expect(await plan('--wordbook', 'more.pls')).not.toBe(await plan())
    expect(await quill('plan', 'mites.md', '--wordbook', 'mites.md')).toMatchObject({ code: 1, error: expect.stringContaining('mites.md:4:1 ') as string })
    expect(await quill('plan', 'mites.md', '--wordbook', 'none.pls')).toMatchObject({ code: 1, error: expect.stringContaining('none.pls cannot be read') as string })
  })

  test('quill style-check names what is not for a synthetic narrator, with its place', async () => {
    expect((await quill('style-check', 'mites.md')).out).toBe('part 1, passage 2: first-person-plural “us” The voice speaks of itself as one of a team. Name who does it, or say “you”.\n1 finding\n')
    const { findings } = JSON.parse((await quill('style-check', 'mites.md', '--longest', '4', '--json')).out) as { findings: object[] }
    expect(findings).toMatchObject([{ part: 1, passage: 2, reason: 'long-sentence', text: 'A varroa came to us.' }, { reason: 'first-person-plural', start: 17, end: 19 }])
    expect((await quill('style-check', 'mites.md', '--longest', 'x')).code).not.toBe(0)
  })

  test('quill census lists what may be misread, with how it is said now; a wordbook settles it', async () => {
    interface Listed { entries: { text: string, reason: string, count: number, contexts: string[], spokenAs: string, ipa: string | null, proposal: string | null }[] }
    const { entries } = JSON.parse((await quill('census', 'mites.md', '--json')).out) as Listed
    expect(entries.map(entry => [entry.reason, entry.text, entry.count])).toEqual([['acronym', 'XQZ', 1], ['unknown-word', 'varroa', 1]])
    expect(entries[0]).toMatchObject({ contexts: ['A varroa came to us. The XQZ saw it.'], spokenAs: 'XQZ', proposal: 'letters: X Q Z' })
    // What the engine itself prints for the word.
    const said = execFileSync('espeak-ng', ['-q', '--ipa', '-v', 'en-gb', 'varroa.'], { encoding: 'utf8' }).trim()
    expect(entries[1]!.ipa).toBe(said)
    expect((JSON.parse((await quill('census', 'mites.md', '--json', '--wordbook', 'words.csv')).out) as Listed).entries).toEqual([])
    expect((await quill('census', 'mites.md', '--voice', 'en-gb')).out).toContain('2 entries')
  })
})

describe('a house style', () => {
  const style = { rules: [{ id: 'short', on: true, does: 'abbreviations' }, { id: 'mine', on: true, does: 'own', find: 'Doctor', say: 'Surgeon' }, { id: 'units', on: true, does: 'measures' }] }

  test('is followed by spoken, with the rules of each change in the map, by plan and by read', async () => {
    await write('doc.md', '# Doc\n\nDr. Ann has 5 kg.\n')
    await write('style.json', JSON.stringify(style))
    expect((await quill('spoken', 'doc.md', '--house-style', 'style.json')).out).toBe('Doc\nSurgeon Ann has five kilograms.\n')
    const { passages } = JSON.parse((await quill('spoken', 'doc.md', '--house-style', 'style.json', '--json')).out) as { passages: { written: string, spoken: string, map: object[] }[] }
    expect(passages[1]).toMatchObject({
      written: 'Dr. Ann has 5 kg.', spoken: 'Surgeon Ann has five kilograms.',
      map: [
        { written: [0, 3], spoken: [0, 7], rule: 'house-style own mine', rules: ['house-style abbreviations short', 'house-style own mine'] }, { written: [3, 12], spoken: [7, 16] },
        { written: [12, 16], spoken: [16, 30], rule: 'house-style measures units' }, { written: [16, 17], spoken: [30, 31] },
      ],
    })
    const characters = async (...flags: string[]): Promise<number> => (JSON.parse((await quill('plan', 'doc.md', '--json', ...flags)).out) as { files: { characters: number }[] }).files.reduce((sum, file) => sum + file.characters, 0)
    expect(await characters('--house-style', 'style.json')).toBeGreaterThan(await characters())
  })

  test('of a preset is named, and printed to start from', async () => {
    await write('doc.md', 'Sold 5 kg 🐝 for £3.\n')
    expect((await quill('spoken', 'doc.md', '--house-style', 'book')).out).toBe('Sold five kilograms for three pounds.\n')
    expect((await quill('spoken', 'doc.md', '--house-style', 'articles')).out).toBe('Sold five kilograms honeybee for three pounds.\n')
    await write('own.json', (await quill('house-style', 'book')).out)
    expect((await quill('spoken', 'doc.md', '--house-style', 'own.json')).out).toBe('Sold five kilograms for three pounds.\n')
  })

  test.each([
    ['rules.0.restMs must be >= 0', { rules: [{ id: 'x', on: true, does: 'dash', restMs: -1 }] }],
    ['Rule “x”: “(a” is not a pattern', { rules: [{ id: 'x', on: true, does: 'own', find: '(a', isPattern: true }] }],
  ])('that is wrong is refused with its place: %s', async (message, wrong) => {
    await write('doc.md', 'Bees.\n')
    await write('wrong.json', JSON.stringify(wrong))
    expect(await quill('spoken', 'doc.md', '--house-style', 'wrong.json')).toMatchObject({ code: 1, out: '', error: expect.stringContaining(message) as string })
  })
})
