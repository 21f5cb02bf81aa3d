import type { VoicesView } from '#shared/api'
import { engineCapabilities } from '#voices/registry'
import { route } from '../utils/route'

export default route(async (_, { engines }): Promise<VoicesView> => {
  const { voices, variants } = await engines.list()
  return { engines: engineCapabilities(), voices: voices.map(({ revision: _, ...voice }) => voice), variants }
})
