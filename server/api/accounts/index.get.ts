import type { AccountsView } from '#shared/api'
import { accountViews } from '#store/accounts'
import { route } from '../../utils/route'
import { simulatedAddress } from '../../utils/simulated-service'

/** The accounts of the paid engines, without their keys. */
export default route(async (_, { database }): Promise<AccountsView> => ({ accounts: await accountViews(database), simulated: simulatedAddress() }))
