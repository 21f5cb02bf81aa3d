import { removeAccount } from '#store/accounts'
import { engineParam } from '../../../utils/account-check'
import { route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await removeAccount(database, engineParam(event))
  return { ok: true }
})
