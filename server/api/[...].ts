import { fail } from '#core/problem'
import { route } from '../utils/route'

/** What is no route is said so, instead of being answered with the page. */
export default route(() => fail('not-found', 'There is no such route, or not with this method.'))
