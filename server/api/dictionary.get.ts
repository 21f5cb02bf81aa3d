import { dictionary } from 'cmu-pronouncing-dictionary'
import { setResponseHeaders } from 'h3'
import { route } from '../utils/route'

const words = Object.keys(dictionary).join('\n')

/** The words of the CMU Pronouncing Dictionary, one a line. */
export default route(async event => {
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'public, max-age=604800' })
  return Promise.resolve(words)
})
