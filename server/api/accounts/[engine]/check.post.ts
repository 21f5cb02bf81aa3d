import type { AccountCheck } from '#shared/api'
import { checkAccount, engineParam } from '../../../utils/account-check'
import { route } from '../../../utils/route'

/** Asks the service of an account about itself. */
export default route((event, shop): Promise<AccountCheck> => checkAccount(shop, engineParam(event)))
