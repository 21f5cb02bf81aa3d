import iconv from 'iconv-lite'
import { bring as read, dropped, passages } from '../../support/intake'

const texts = async (name: string, content: string | Buffer, options = {}) => (await read(name, content, options)).blocks.map(block => block.text)

describe('plain text', () => {
  test('paragraphs stand between empty lines; lines within them are joined', async () => {
    expect(await texts('a.txt', 'One line\nand another.\n\n  \nNext\r\nparagraph.')).toEqual(['One line and another.', 'Next paragraph.'])
  })

  const wrapped = (text: string, width = 60): string => text.replace(new RegExp(`(?=\\S)(.{1,${width}})(?:\\s+|$)`, 'gu'), '$1\n')
  const one = 'The bees came home late in the evening, and nobody saw them go in; the hive was quiet, and the wind had gone down behind the barn. It was warm.'
  const two = 'In the morning it rained. The keeper stood in the door of his shed and counted the drops on the sill, which is a way to be patient.'
  const dialogue = ['“You are late,” she said.', '“I was at the stand.”', '“All night?”', '“Since noon. The swarm had gone up into the old pear tree, and it took all of us to get it down again.”']
  const verse = ['The lime is in flower,', 'The evening is long,', 'And under the ivy', 'The bees have a song.']

  test.each([
    ['a paragraph a line', `${one}\n${two}\nChapter 2\n${two}`, [one, two, 'Chapter 2', two]],
    ['a paragraph a line, all short', 'It rained.\nThe bees stayed in.\nNobody came.\nThen it was dark.', ['It rained.', 'The bees stayed in.', 'Nobody came.', 'Then it was dark.']],
    ['wrapped lines', `${wrapped(one)}\n${wrapped(two)}`, [one, two]],
    ['wrapped lines with a chapter’s name right above', `Chapter 1\n${wrapped(one)}\nCHAPTER TWO\n${wrapped(two)}`, ['Chapter 1', one, 'CHAPTER TWO', two]],
    ['indented paragraphs', `${wrapped(one)}   ${wrapped(two)}\t${wrapped(one)}`, [one, two, one]],
    ['paragraphs that end short', `${wrapped(one).trimEnd()}\n${wrapped(two)}`, [one, two]],
    ['a block that is indented', `${wrapped(one)}${wrapped(two, 50).replace(/^/gmu, '    ').trimEnd()}\n${wrapped(one)}`, [one, two, one]],
    ['dialogue', `${wrapped(one)}\n${dialogue.map(line => wrapped(line)).join('')}`, [one, ...dialogue]],
    ['verse', `${wrapped(one)}\n${verse.join('\n')}\n\n${wrapped(two)}`, [one, ...verse, two]],
    ['verse alone', `${verse.join('\n')}\n\n${verse.join('\n')}`, [...verse, ...verse]],
    ['a letter with an address', `Tilde Orrery\n3 Marrow Lane\nHivestead\n\n${wrapped(one)}`, ['Tilde Orrery', '3 Marrow Lane', 'Hivestead', one]],
  ])('%s', async (_, text, expected) => {
    expect(await texts('a.txt', text)).toEqual(expected)
  })

  test('lists: each item by itself, without its bullet, with its number', async () => {
    const items = ['a smoker and dry fuel', 'a hive tool', 'a veil that nobody has sat on, and a second one for whoever comes along to look at the bees']
    const { blocks } = await read('a.txt', `${wrapped(one)}${items.map(item => `- ${wrapped(item, 50).trimEnd().replace(/\n/gu, '\n  ')}`).join('\n')}\n\n1. Open the hive.\n2. Look.\n3) Close it.\n`)
    expect(blocks.map(({ kind, text }) => [kind, text])).toEqual([['paragraph', one], ...items.map(item => ['listItem', item]), ['listItem', '1. Open the hive.'], ['listItem', '2. Look.'], ['listItem', '3) Close it.']])
  })

  test('a paragraph of the length of a book is divided between sentences, and no word is lost', async () => {
    const text = `${one} ${two} `.repeat(2_000).trim()
    const found = await texts('a.txt', text)
    expect(found.length).toBe(Math.ceil(text.length / 20_000))
    expect(found.every(each => each.length <= 20_000 && /\.$/u.test(each))).toBe(true)
    expect(found.join(' ')).toBe(text)
  })

  test('a sentence that ends with a number at the beginning of a line is no list', async () => {
    const text = 'The keeper of the bees in the lane had a stand of exactly\n12. There were two more behind the barn, which nobody ever\ncounted, since they stood in the nettles.'
    expect(await texts('a.txt', text)).toEqual([text.replace(/\n/gu, ' ')])
  })

  const german = 'Die Bienen fliegen früh über die Wiese, und die Königin bleibt im Stock. Größer wird das Volk erst im Mai, wenn die Bäume blühen.'
  test.each([
    ['utf-8', Buffer.from(german)],
    ['utf-8 with a byte order mark', Buffer.concat([Buffer.from('efbbbf', 'hex'), Buffer.from(german)])],
    ['utf-16le with a byte order mark', Buffer.concat([Buffer.from('fffe', 'hex'), iconv.encode(german, 'utf-16le')])],
    ['utf-16be without a byte order mark', iconv.encode(german, 'utf-16be')],
    ['windows-1252', iconv.encode(german, 'windows-1252')],
  ])('%s is recognised', async (_, bytes) => {
    expect(await texts('a.txt', bytes)).toEqual([german])
  })

  test.each([
    ['windows-1251', 'Пчёлы вылетают рано утром, когда цветёт ива, и возвращаются домой поздно вечером с полными обножками пыльцы.'],
    ['shift_jis', '蜂は朝早くから飛び立ち、夕方遅くに花粉を持って巣に戻ります。春になると柳の花が咲きます。'],
    ['iso-8859-2', 'Pszczoły wylatują wcześnie rano, gdy kwitnie wierzba, i wracają późno wieczorem z obnóżami pyłku.'],
    ['gb18030', '蜜蜂清晨很早就飞出去，傍晚很晚才带着花粉回到蜂巢。'],
    ['windows-1253', 'Οι μέλισσες πετούν νωρίς το πρωί και γυρίζουν αργά το βράδυ.'],
  ])('an old encoding is recognised: %s', async (encoding, text) => {
    expect(await texts('a.txt', iconv.encode(text, encoding))).toEqual([text])
  })

  const languages = {
    polish: 'Pszczoły wylatują wcześnie rano, gdy kwitnie wierzba, i wracają późno wieczorem. „Żadna nie śpi”, mówi pszczelarz.',
    czech: 'Včely vylétají brzy ráno, když kvete vrba, a vracejí se pozdě večer. Žádná nespí, říká včelař, a úl je plný.',
    hungarian: 'A méhek korán reggel repülnek ki, amikor a fűzfa virágzik, és késő este térnek vissza. Hűvös erdő, őszi szőlő.',
    turkish: 'Arılar sabah erkenden uçar, söğüt çiçek açtığında akşam geç saatte dönerler. Işık azalınca kovan sessizleşir, kış yaklaşır.',
    german: 'Die Bienen fliegen früh über die Wiese, und die Königin bleibt im Stock. „Größer wird das Volk im Mai“, sagt er.',
    french: 'Les abeilles s’envolent tôt le matin, dès que le saule fleurit, et rentrent très tard. « Où êtes-vous allées ? » demande-t-il.',
    spanish: 'Las abejas salen temprano por la mañana y vuelven muy tarde. ¿Dónde está la reina? ¡Aquí!, dijo el niño con ilusión.',
    russian: 'Пчёлы вылетают рано утром, когда цветёт ива, и возвращаются домой поздно вечером.',
    japanese: '蜂は朝早くから飛び立ち、夕方遅くに花粉を持って巣に戻ります。春になると柳の花が咲きます。',
    latvian: 'Bites izlido agri no rīta, kad zied vītols, un vēlu vakarā atgriežas mājās. Neviena neguļ, saka biškopis, un strops ir pilns.',
    lithuanian: 'Bitės išskrenda anksti rytą, kai žydi gluosnis, ir vėlai vakare grįžta namo. Nė viena nemiega, sako bitininkas, o avilys pilnas.',
    esperanto: 'La abeloj elflugas frue matene, kiam la saliko floras, kaj revenas malfrue vespere. Neniu dormas, diras la abelisto, ĉar la ĉelaro estas plena, kaj ĝi ŝatas la ĵus naskiĝintan reĝinon.',
    maltese: 'In-naħal joħroġ kmieni filgħodu meta s-siġar iħaddru, u jerġa’ lura tard filgħaxija. Ħadd ma jorqod, jgħid il-ħaddiem, u l-ġarra hija mimlija b’għasel ġdid għaż-żgħar.',
    ukrainian: 'Бджоли вилітають рано-вранці, коли цвіте верба, і повертаються додому пізно ввечері. Їхній вулик повний, каже пасічник.',
    belarusian: 'Пчолы вылятаюць рана раніцай, калі цвіце вярба, і вяртаюцца дадому позна ўвечары. Ніводная не спіць, кажа пчаляр.',
    bulgarian: 'Пчелите излитат рано сутрин, когато цъфти върбата, и се връщат късно вечер. Никоя не спи, казва пчеларят.',
    greek: 'Οι μέλισσες πετούν νωρίς το πρωί, όταν ανθίζει η ιτιά, και γυρίζουν αργά το βράδυ στην κυψέλη.',
    hebrew: 'הדבורים יוצאות מוקדם בבוקר, כאשר הערבה פורחת, וחוזרות מאוחר בערב הביתה אל הכוורת המלאה.',
    arabic: 'تخرج النحلات في الصباح الباكر عندما يزهر الصفصاف، وتعود في المساء المتأخر إلى الخلية المليئة بالعسل.',
    thai: 'ผึ้งบินออกไปแต่เช้าตรู่เมื่อต้นหลิวออกดอก และกลับมาในตอนเย็นพร้อมกับเกสรดอกไม้',
    korean: '벌은 버드나무 꽃이 피는 이른 아침에 날아가서 저녁 늦게 꽃가루를 가지고 돌아옵니다.',
    chinese: '蜜蜂清晨很早就飛出去，傍晚很晚才帶著花粉回到蜂巢。春天柳樹開花的時候，蜂箱裡很熱鬧。',
  } as const
  test.each([
    ['windows-1250', 'polish'], ['windows-1250', 'czech'], ['windows-1250', 'hungarian'], ['iso-8859-2', 'polish'], ['iso-8859-2', 'hungarian'], ['windows-1254', 'turkish'], ['macroman', 'french'], ['macroman', 'german'], ['macroman', 'spanish'],
    ['windows-1252', 'french'], ['windows-1252', 'spanish'], ['utf-16le', 'russian'], ['utf-16be', 'russian'], ['utf-16le', 'japanese'], ['utf-16be', 'polish'], ['utf-16le', 'french'],
    ['windows-1257', 'latvian'], ['windows-1257', 'lithuanian'], ['iso-8859-13', 'latvian'], ['iso-8859-4', 'latvian'], ['iso-8859-4', 'lithuanian'], ['iso-8859-3', 'maltese'], ['iso-8859-9', 'turkish'],
    ['koi8-u', 'ukrainian'], ['windows-1251', 'ukrainian'], ['iso-8859-5', 'ukrainian'], ['windows-1251', 'belarusian'], ['windows-1251', 'bulgarian'], ['iso-8859-5', 'bulgarian'], ['koi8-r', 'russian'], ['iso-8859-5', 'russian'], ['cp866', 'russian'],
    ['windows-1253', 'greek'], ['iso-8859-7', 'greek'], ['cp737', 'greek'], ['windows-1255', 'hebrew'], ['iso-8859-8', 'hebrew'], ['windows-1256', 'arabic'], ['iso-8859-6', 'arabic'], ['windows-874', 'thai'],
    ['shift_jis', 'japanese'], ['euc-jp', 'japanese'], ['gb18030', 'chinese'], ['big5', 'chinese'], ['euc-kr', 'korean'], ['cp852', 'polish'], ['cp852', 'czech'], ['cp850', 'french'], ['cp850', 'spanish'], ['cp437', 'german'], ['cp857', 'turkish'],
  ] as const)('%s without a mark is recognised, and followed when it is chosen: %s', async (encoding, language) => {
    // Some have no such quotation marks.
    const text = /^(?:iso|cp)/u.test(encoding) ? languages[language].replace(/[„”“]/gu, '').replaceAll('’', '\'') : languages[language]
    const bytes = iconv.encode(text, encoding, { addBOM: false })
    expect(await texts('a.txt', bytes)).toEqual([text])
    expect(await texts('a.txt', bytes, { encoding })).toEqual([text])
  })

  test('how sure the encoding is, and what else it could be, is told with the place where they differ', async () => {
    const { encoding, problems } = await read('a.txt', iconv.encode(languages.polish, 'windows-1250'))
    expect(encoding).toMatchObject({ name: 'windows-1250', certainty: 'certain' })
    expect(encoding!.others.length).toBeGreaterThan(1)
    for (const { now, instead } of encoding!.others) {
      expect(languages.polish).toContain(now)
      expect(instead).not.toBe(now)
    }
    expect(problems).toEqual([])
    expect((await read('a.txt', 'Plain letters.')).encoding).toBeUndefined()
    expect((await read('a.txt', Buffer.from(languages.polish))).encoding).toBeUndefined()
    expect((await read('a.txt', iconv.encode(languages.polish, 'windows-1250'), { encoding: 'iso-8859-1' })).encoding).toMatchObject({ name: 'iso-8859-1', certainty: 'chosen', others: expect.arrayContaining([expect.objectContaining({ name: 'windows-1250' })]) as unknown })
    const page = `<!doctype html><html><head><meta charset="windows-1250"></head><body><p>${languages.polish}</p></body></html>`
    expect((await read('a.html', iconv.encode(page, 'windows-1250'))).encoding).toMatchObject({ name: 'windows-1250', certainty: 'declared' })
  })

  test('what could be one encoding or another is doubtful, and said', async () => {
    const { encoding, problems } = await read('a.txt', iconv.encode(languages.esperanto, 'iso-8859-3'))
    expect(encoding).toMatchObject({ certainty: 'doubtful', others: expect.arrayContaining([expect.objectContaining({ name: 'iso-8859-3' })]) as unknown })
    expect(problems).toEqual([{ code: 'encoding-doubtful', message: expect.stringContaining(`${encoding!.others[0]!.name} (“`) as string }])
  })

  test('marks of English and German in Windows-1252 are not doubtful', async () => {
    for (const text of ['The bees came home late. He said “yes” — that’s it. It’s late, isn’t it? The keeper’s dog “barked”.', 'Er sagte „ja“ – und ging. Die Bienen flogen „heim“.']) {
      const { blocks, encoding, problems } = await read('a.txt', iconv.encode(text, 'windows-1252'))
      expect([blocks[0]!.text, encoding!.certainty, problems]).toEqual([text, 'likely', []])
    }
  })

  test('a few letters beyond ASCII make no encoding certain', async () => {
    expect((await read('a.txt', Buffer.from('The caf\xe9 was na\xefve.', 'latin1'))).encoding).toMatchObject({ name: 'windows-1252', certainty: 'likely' })
  })

  test('a broken byte in UTF-8 is shown and told with its place', async () => {
    const bytes = Buffer.concat([Buffer.from('Über der Wiese,\nüber dem B'), Buffer.from([0xfc]), Buffer.from('ch, über allem.')])
    const found = await read('a.txt', bytes)
    expect(found.blocks[0]!.text).toBe('Über der Wiese, über dem B�ch, über allem.')
    expect(found.problems).toEqual([{ code: 'encoding-broken', message: expect.stringContaining('A byte of a.txt is no UTF-8') as string, place: expect.stringContaining('line 2, column 11') as string }])
    expect(await texts('b.txt', Buffer.from('It’s caf\xe9 time, and nothing else.'.replace('’', '\x92'), 'latin1'))).toEqual(['It’s café time, and nothing else.'])
  })

  test('a chosen encoding that makes no text of the bytes is refused', async () => {
    await expect(read('a.txt', iconv.encode('The bees came home.', 'utf-16le'), { encoding: 'windows-1252' })).rejects.toMatchObject({ problem: { code: 'encoding-wrong' } })
    expect(await texts('a.txt', Buffer.from('caf\x8e', 'latin1'), { encoding: 'x-mac-roman' })).toEqual(['café'])
  })

  test('a chosen encoding wins over detection; an unknown one is named', async () => {
    expect(await texts('a.txt', Buffer.from('Gr\xfc\xdfe', 'latin1'), { encoding: 'iso-8859-1' })).toEqual(['Grüße'])
    await expect(read('a.txt', 'x', { encoding: 'utf-99' })).rejects.toMatchObject({ problem: { code: 'encoding-unknown' } })
  })
})

describe('Markdown', () => {
  const blocks = async (markdown: string) => (await read('a.md', markdown)).blocks

  test('gives headings, paragraphs, list items and quotations in order', async () => {
    expect(await blocks('# One\n\nText\n\n- a\n- b\n  1. c\n\n> said\n\nTwo\n---\n')).toEqual([
      { kind: 'heading', text: 'One', level: 1 }, { kind: 'paragraph', text: 'Text' }, { kind: 'listItem', text: 'a' }, { kind: 'listItem', text: 'b' },
      { kind: 'listItem', text: '1. c' }, { kind: 'quotation', text: 'said' }, { kind: 'heading', text: 'Two', level: 2 },
    ])
  })

  test.each([
    ['signs', '**Bold**, *italic*, ~~struck~~ and `code`', 'Bold, italic, struck and code'],
    ['link targets', 'See [the list](https://a.example/b_c "t") now', 'See the list now'],
    ['targets of any kind', 'See [this](javascript:alert%281%29) now', 'See this now'],
    ['reference targets', 'See [the list][1] now\n\n[1]: https://a.example', 'See the list now'],
    ['bare targets', 'See <https://a.example/> now', 'See now'],
    ['images', 'A hive ![a hive](h.png) here', 'A hive here'],
    ['footnote marks and notes', 'Ten hives[^1] stand.\n\n[^1]: Counted twice.', 'Ten hives stand.'],
    ['inline footnotes', 'Ten hives^[Counted.] stand.', 'Ten hives stand.'],
    ['HTML', 'Ten<br>hives <!-- no --> <b>stand</b>', 'Ten hives stand'],
    ['task boxes', '- [x] slate', 'slate'],
    ['entities', 'salt &amp; sugar', 'salt & sugar'],
    ['line breaks', 'one  \ntwo\nthree', 'one two three'],
  ])('%s are not read', async (_, markdown, expected) => {
    expect(passages(await read('a.md', markdown))).toEqual([expected])
  })

  test('code blocks, rules and comments make no passage', async () => {
    const found = await read('a.md', '```\nx = 1\n```\n\n***\n\n<!-- c -->\n\nText')
    expect(passages(found)).toEqual(['Text'])
    expect(dropped(found)).toEqual({ code: 1, comment: 1 })
  })

  test('a table is read row by row', async () => {
    expect(await blocks('| a | b |\n|---|---|\n| 1 | 2 |')).toMatchObject([{ kind: 'tableRow', text: 'a, b' }, { kind: 'tableRow', text: '1, 2', columns: ['a', 'b'] }])
  })

  test('front matter gives title, author and language, and is not read', async () => {
    expect(await read('a.md', '---\ntitle: The Year\nauthor: [A, B]\nlang: de\n---\n\nText')).toMatchObject({
      title: 'The Year', author: 'A, B', language: 'de', languageSource: 'declared', blocks: [{ kind: 'paragraph', text: 'Text' }],
    })
  })

  test('front matter of another kind is dropped, never run or read', async () => {
    for (const block of ['---js\nprocess.exit(1)\n---\nText', '+++\ntitle = "x"\n+++\nText']) {
      const found = await read('a.md', block)
      expect([passages(found), dropped(found)]).toEqual([['Text'], { 'front-matter': 1 }])
    }
  })

  test('broken front matter is reported with its line', async () => {
    await expect(read('a.md', '---\ntitle: [a\n---\nText')).rejects.toMatchObject({ problem: { code: 'front-matter-broken', place: expect.stringMatching(/a\.md, line \d/u) } })
  })

  test('a rule at the top is no front matter', async () => {
    expect((await blocks('---\n\nText\n\n---\n\nMore')).map(block => block.text)).toEqual(['Text', 'More'])
  })
})

describe('language', () => {
  test.each([
    ['en', 'The bees leave the hive early in the morning and come home late in the evening with pollen from the willow.'],
    ['de', 'Die Bienen verlassen den Stock früh am Morgen und kommen spät am Abend mit dem Pollen der Weide zurück.'],
    ['fr', 'Les abeilles quittent la ruche tôt le matin et rentrent tard le soir avec le pollen du saule.'],
    ['es', 'Las abejas salen de la colmena temprano por la mañana y vuelven tarde por la noche con el polen del sauce.'],
  ])('%s is detected', async (language, text) => {
    expect(await read('a.txt', text)).toMatchObject({ language, languageSource: 'detected' })
  })

  test('a chosen language wins; one that is no tag is refused', async () => {
    expect(await read('a.txt', 'Some text in English, long enough to be recognised.', { language: 'de_AT' })).toMatchObject({ language: 'de-AT', languageSource: 'chosen' })
    await expect(read('a.txt', 'x', { language: 'no such' })).rejects.toMatchObject({ problem: { code: 'language-unknown' } })
  })

  test('too little text is said to be assumed', async () => {
    expect(await read('a.txt', 'Hive IV')).toMatchObject({ languageSource: 'assumed' })
  })
})

describe('files that cannot be read', () => {
  test.each([
    ['an empty file', 'a.txt', '', 'file-empty'],
    ['a file of signs only', 'a.txt', '***\n\n---', 'nothing-to-read'],
    ['bytes of no kind', 'a.bin', Buffer.from(Array.from({ length: 4096 }, (_, index) => index * 37 % 256)), 'format-unknown'],
  ])('%s is refused with a message', async (_, name, content, code) => {
    await expect(read(name, content)).rejects.toMatchObject({ problem: { code, message: expect.stringContaining(name) } })
  })
})
