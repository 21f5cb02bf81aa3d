import { setResponseHeaders } from 'h3'
import { route } from '../utils/route'

/** It is the same for everybody. */
const dictionaryBytes = 1

/** The words of the CMU Pronouncing Dictionary, one a line. */
export default route(async (event, { work }) => {
  const words = await work.result('dictionaryWords', undefined, dictionaryBytes)
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'public, max-age=604800' })
  return words
})
