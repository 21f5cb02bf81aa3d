import type { AccountCheck } from '#shared/api'
import { accountSchema, type AccountRequest } from '#shared/schemas'
import { saveAccount } from '#store/accounts'
import { checkAccount, engineParam } from '../../../utils/account-check'
import { bodyOf, route } from '../../../utils/route'

const body = bodyOf<AccountRequest>(accountSchema)

/** Keeps address and key of an account, and tries them. */
export default route(async (event, shop): Promise<AccountCheck> => {
  const engine = engineParam(event)
  await saveAccount(shop.database, shop.secrets, engine, await body(event))
  return checkAccount(shop, engine)
})
