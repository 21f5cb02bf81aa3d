import { withoutTail } from '../tail'
import type { Matter } from './manuscript'

/** The usual headings of front and back matter (*common practice*), in lower case without signs. */
const names: Readonly<Record<Matter, readonly string[]>> = {
  contents: ['contents', 'table of contents', 'list of contents', 'list of figures', 'list of tables', 'list of illustrations', 'inhalt', 'inhaltsverzeichnis', 'table des matières',
    'sommaire', 'índice general', 'tabla de contenido', 'tabla de contenidos', 'indice generale', 'sommario', 'inhoud', 'inhoudsopgave', 'sumário'],
  copyright: ['copyright', 'copyright notice', 'copyright page', 'imprint', 'legal notice', 'colophon', 'impressum', 'mentions légales', 'aviso legal', 'colofon'],
  index: ['index', 'general index', 'subject index', 'index of names', 'register', 'sachregister', 'stichwortverzeichnis', 'índice alfabético', 'índice analítico', 'indice analitico'],
  notes: ['notes', 'footnotes', 'endnotes', 'end notes', 'references', 'bibliography', 'works cited', 'anmerkungen', 'fußnoten', 'endnoten', 'literaturverzeichnis',
    'notes de bas de page', 'bibliographie', 'notas', 'bibliografía', 'note', 'bibliografia', 'noten', 'voetnoten'],
  dedication: ['dedication', 'widmung', 'dédicace', 'dedicatoria', 'dedica', 'dedicatória', 'opdracht'],
}

const byName = new Map(Object.entries(names).flatMap(([matter, all]) => all.map(name => [name, matter as Matter] as const)))

/** An index of something, by what manuals and studies have indexes of (*common practice*). */
const namedIndex = /^(?:(?:concept|function|variable|command|option|key|keyword|program|macro|type|data type|subject|topic|name|author|general|editor function|style and tag|function and variable)s? index)$/u

const longestName = 80

/** The front or back matter that a heading announces; null for a heading of the text itself. */
export function matterOf(label: string): Matter | null {
  if (label.length > longestName) return null
  const name = withoutTail(label.toLowerCase().replace(/^(?:[\s\d.ivx]*[.)]|appendix [a-z]:?|[b-z])\s+(?=\S)/u, ''), /[.:\s]/u)
  return byName.get(name) ?? (namedIndex.test(name) ? 'index' : null)
}
