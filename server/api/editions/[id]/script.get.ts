import { setResponseHeaders } from 'h3'
import { fileSafe } from '#core/runsheet/file-name'
import { includedParts, scriptAsMarkdown, scriptAsSsml, scriptAsText, scriptMediaTypes } from '#core/script/export'
import type { Script } from '#core/script/script'
import { fail } from '#core/problem'
import { scriptDocument } from '#press/script-document'
import { scriptQuerySchema, type ScriptQuery } from '#shared/schemas'
import { loadScriptOf } from '#store/score'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<ScriptQuery>(scriptQuerySchema)

/** The script as a file. */
export default route(async event => {
  const { format } = query(event)
  const script: Script = await loadScriptOf(idParam(event))
  if (includedParts(script).length === 0) fail('nothing-to-read', 'All parts are left out: there is nothing to export.')
  setResponseHeaders(event, { 'content-type': scriptMediaTypes[format], 'content-disposition': `attachment; filename="${fileSafe(script.title)}.${format}"`, 'cache-control': 'no-store' })
  if (format === 'docx') return scriptDocument(script)
  return format === 'ssml' ? scriptAsSsml(script) : format === 'txt' ? scriptAsText(script) : scriptAsMarkdown(script)
})
