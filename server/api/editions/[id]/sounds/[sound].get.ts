import { loadEdition } from '#store/editions'
import { findSound } from '#store/sounds'
import { takeLoader } from '#takes/library'
import { idParam, route } from '../../../../utils/route'
import { sendWav } from '../../../../utils/wav'

/** A sound of the library as WAV. */
export default route(async (event, { library }) => {
  const { edition } = await loadEdition(idParam(event))
  const { takeKey, name, sampleRate } = await findSound(edition.productionId, idParam(event, 'sound'))
  const load = takeLoader(library, await library.index.find([takeKey]), new Map([[takeKey, name]]), sampleRate)
  return sendWav(event, { samples: await load(takeKey), sampleRate }, 0)
})
