import type { Block, SourceUnit } from '#core/manuscript/manuscript'
import { fail, type Problem } from '#core/problem'
import { count, most } from '#core/tally'
import { textOf } from '../archive'
import { mainPart, readProperties, relationsOf } from '../ooxml/package'
import type { Reader } from '../reader'
import { parseXml } from '../xml'
import { notesContent, slideContent } from './slide'

/** PresentationML (ECMA-376): one slide is one unit, in the deck's order. */
export const pptxReader: Reader = {
  format: 'pptx',
  label: 'a deck (PPTX)',
  extensions: ['.pptx', '.pptm', '.ppsx'],
  version: 1,
  accepts: ({ archive, name }) => archive !== null && (archive.names.some(entry => /^ppt\/[^/]+\.xml$/u.test(entry)) || /\.(?:pptx|pptm|ppsx)$/iu.test(name)),
  read: async (file, { onProgress }) => {
    const archive = file.archive!
    const path = await mainPart(archive, 'ppt/presentation.xml')
    const presentation = path === null ? null : await textOf(archive, path)
    if (path === null || presentation === null) return fail('pptx-no-deck', `${file.name} is a ZIP file, but not a PPTX deck: it has no presentation in it.`)
    const targets = new Map((await relationsOf(archive, path)).map(({ id, target }) => [id, target]))
    const order: string[] = []
    parseXml(presentation, path, {
      open: tag => { if (tag.local === 'sldId') order.push(targets.get(tag.attributes['r:id']?.value ?? Object.values(tag.attributes).find(({ local, prefix }) => local === 'id' && prefix !== '')?.value ?? '') ?? '') },
    })
    if (order.length === 0) fail('pptx-empty', `${file.name} has no slides.`)
    const units: SourceUnit[] = []
    const blocks: Block[] = []
    const problems: Problem[] = []
    const languages = new Map<string, number>()
    const silent: number[] = []
    for (const [index, slide] of order.entries()) {
      const xml = await textOf(archive, slide)
      if (xml === null) {
        problems.push({ code: 'slide-missing', message: 'A slide of the deck is not in the file. Save the deck again.', place: `${file.name}, slide ${index + 1}` })
        units.push({ kind: 'slide', label: `Slide ${index + 1}` })
        continue
      }
      const shown = slideContent(xml, slide)
      const notes = await notesOf(slide)
      const first = shown.blocks.find(block => block.dropped === undefined && block.text !== '')?.text
      const unit = units.length
      units.push({ kind: 'slide', label: shown.title ?? first ?? `Slide ${index + 1}`, ...(shown.hidden ? { hidden: true } : {}) })
      for (const block of shown.blocks) blocks.push({ ...block, unit, layer: 'slide' })
      for (const block of notes?.blocks ?? []) blocks.push({ ...block, unit, layer: 'notes' })
      if (!(notes?.blocks ?? []).some(block => block.text !== '')) silent.push(index + 1)
      for (const counts of [shown.languages, notes?.languages ?? []]) for (const [language, characters] of counts) count(languages, language, characters)
      onProgress?.((index + 1) / order.length)
    }
    if (silent.length > 0) {
      problems.push({ code: 'slides-without-notes', message: `${silent.length === 1 ? 'One slide has' : `${silent.length} slides have`} no notes, so nothing is said on ${silent.length === 1 ? 'it' : 'them'}. Write notes, or take what is on the slides.`, place: `slide ${silent.join(', ')}` })
    }
    const properties = await readProperties(archive)
    return { title: properties.title ?? units[0]!.label, author: properties.author, language: properties.language, languageHint: most(languages)?.[0] ?? null, units, blocks, problems }

    async function notesOf(slide: string): Promise<ReturnType<typeof slideContent> | null> {
      const target = (await relationsOf(archive, slide)).find(({ type }) => type === 'notesSlide')?.target
      const notes = target === undefined ? null : await textOf(archive, target)
      return notes === null ? null : notesContent(notes, target!)
    }
  },
}
