import { setResponseHeaders } from 'h3'
import { writeWordCsv } from '#core/words/csv'
import { writePls } from '#core/words/pls'
import { emptyWordbook } from '#core/words/wordbook'
import { wordExportQuerySchema, type WordExportQuery } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<WordExportQuery>(wordExportQuerySchema)

/** A wordbook as a file: PLS has the entries of the edition's language and its variants, CSV has them all. */
export default route(async event => {
  const { format, shared } = query(event)
  const { wordbooks, edition } = await loadEdition(idParam(event))
  const wordbook = wordbooks.find(book => book.isShared === (shared === 'yes')) ?? emptyWordbook
  setResponseHeaders(event, {
    'content-type': format === 'pls' ? 'application/pls+xml; charset=utf-8' : 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="wordbook${shared === 'yes' ? '-shared' : ''}.${format}"`,
  })
  return format === 'pls' ? writePls(wordbook, edition.language) : writeWordCsv(wordbook)
})
