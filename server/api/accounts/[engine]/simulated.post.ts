import type { AccountCheck } from '#shared/api'
import { saveAccount } from '#store/accounts'
import { checkAccount, engineParam } from '../../../utils/account-check'
import { route } from '../../../utils/route'
import { simulatedAccount } from '../../../utils/simulated-service'

/** Sets up an account at the simulated service that runs beside this server. */
export default route(async (event, shop): Promise<AccountCheck> => {
  const engine = engineParam(event)
  await saveAccount(shop.database, shop.secrets, engine, await simulatedAccount())
  return checkAccount(shop, engine)
})
