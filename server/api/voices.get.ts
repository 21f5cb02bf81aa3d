import type { VoicesView } from '#shared/api'
import { route } from '../utils/route'

export default route(async (_, { engine }): Promise<VoicesView> => {
  const { voices, variants } = await engine.list()
  return { voices: voices.map(({ id, name, language, gender }) => ({ id, name, language, gender })), variants }
})
