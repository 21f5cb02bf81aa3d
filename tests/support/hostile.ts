import { zipOf } from './docx'

export interface HostileFile {
  readonly name: string
  readonly bytes: Buffer
  /** What its refusal says. */
  readonly says: RegExp
}

const zipNamed = async (from: string, to: string): Promise<Buffer> =>
  Buffer.from((await zipOf({ [from]: 'x' })).toString('latin1').replaceAll(from, to), 'latin1')

/** Files that mean harm or are broken, made here. */
export async function hostileFiles(): Promise<HostileFile[]> {
    const sentence = 'This is one of very many sentences in a text without any end. '
  return [
    { name: 'empty.txt', bytes: Buffer.alloc(0), says: /empty\.txt is empty/u },
    { name: 'binary.txt', bytes: Buffer.from('89504e470d0a1a0a0000000d494844520000000100000001', 'hex'), says: /binary\.txt is named like a text, but holds binary data .*save it again as text in UTF-8/u },
    { name: 'broken.docx', bytes: (await zipOf({ 'word/document.xml': '<w/>' })).subarray(0, 60), says: /broken\.docx is damaged or not complete. Save it again/u },
    { name: 'encrypted.docx', bytes: Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(600)]), says: /encrypted\.docx is protected by a password .*Save it without a password/u },
    { name: 'bomb.docx', bytes: await zipOf({ 'word/document.xml': Buffer.alloc(200 * 1024 * 1024, 0x20) }), says: /bomb\.docx grows to more than/u },
    { name: 'climbing.docx', bytes: await zipNamed('aa/document.xml', '../document.xml'), says: /climbing\.docx holds an entry that would lie outside of it, “\.\.\/document\.xml”; it was not opened/u },
    {
      name: 'entities.docx',
      bytes: await zipOf({ '[Content_Types].xml': '<Types/>', 'word/document.xml': '<!DOCTYPE a [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]><a>&b;</a>' }),
      says: /(?=.*entities\.docx, word\/document\.xml).*document type definition is not accepted.*Save it again/u,
    },
    { name: 'long.txt', bytes: Buffer.from(sentence.repeat(50_000_000 / sentence.length)), says: /long\.txt has 49,999,9\d\d characters of text; at most 10,000,000 .*Divide it/u },
    { name: 'signs.txt', bytes: Buffer.from('***\n\n---'), says: /No text was found in signs\.txt/u },
  ]
}
