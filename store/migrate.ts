import { SequelizeStorage, Umzug } from 'umzug'
import type { Database } from './database'
import { firstSlice } from './migrations/001-first-slice'
import { edits } from './migrations/002-edits'
import { running } from './migrations/003-running'
import { intake } from './migrations/004-intake'
import { directions } from './migrations/005-directions'
import { sounds } from './migrations/006-sounds'
import { wordbooks } from './migrations/007-wordbooks'
import { houseStyles } from './migrations/008-house-styles'
import { chosenParts } from './migrations/009-chosen-parts'
import { voiceRevision } from './migrations/010-voice-revision'
import { markedNotOldest } from './migrations/011-marked-not-oldest'
import { requestOnce } from './migrations/012-request-once'
import { partSummaries } from './migrations/013-part-summaries'
import { requests } from './migrations/014-requests'
import { eventsInOrder } from './migrations/015-events-in-order'
import { choices } from './migrations/016-choices'
import { workerProblems } from './migrations/017-worker-problems'
import { orders } from './migrations/018-orders'
import { lists } from './migrations/019-lists'
import { editions } from './migrations/020-editions'
import { roleIds } from './migrations/021-role-ids'
import { pieces } from './migrations/022-pieces'
import { divisions } from './migrations/023-divisions'
import { labels } from './migrations/024-labels'
import { concessions } from './migrations/025-concessions'
import { ownProfiles } from './migrations/026-profiles'
import { announcements } from './migrations/027-announcements'
import { equaliser } from './migrations/028-equaliser'
import { denoise } from './migrations/029-denoise'
import { extras } from './migrations/030-extras'
import { sceneBreaks } from './migrations/031-scene-breaks'
import { slideNumbers } from './migrations/032-slide-numbers'
import { removed } from './migrations/033-removed'
import { accounts } from './migrations/034-accounts'

/** In order; a step that has been released is never changed. */
const migrations: readonly (readonly [name: string, sql: string])[] = [
  ['001-first-slice', firstSlice],
  ['002-edits', edits],
  ['003-running', running],
  ['004-intake', intake],
  ['005-directions', directions],
  ['006-sounds', sounds],
  ['007-wordbooks', wordbooks],
  ['008-house-styles', houseStyles],
  ['009-chosen-parts', chosenParts],
  ['010-voice-revision', voiceRevision],
  ['011-marked-not-oldest', markedNotOldest],
  ['012-request-once', requestOnce],
  ['013-part-summaries', partSummaries],
  ['014-requests', requests],
  ['015-events-in-order', eventsInOrder],
  ['016-choices', choices],
  ['017-worker-problems', workerProblems],
  ['018-orders', orders],
  ['019-lists', lists],
  ['020-editions', editions],
  ['021-role-ids', roleIds],
  ['022-pieces', pieces],
  ['023-divisions', divisions],
  ['024-labels', labels],
  ['025-concessions', concessions],
  ['026-profiles', ownProfiles],
  ['027-announcements', announcements],
  ['028-equaliser', equaliser],
  ['029-denoise', denoise],
  ['030-extras', extras],
  ['031-scene-breaks', sceneBreaks],
  ['032-slide-numbers', slideNumbers],
  ['033-removed', removed],
  ['034-accounts', accounts],
]

/** Brings the schema up to date. Run before the server and the workers start, in a step of its own. */
export async function migrate({ sequelize }: Database): Promise<void> {
  const umzug = new Umzug({
    migrations: migrations.map(([name, sql]) => ({ name, up: async () => { await sequelize.query(sql) } })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  })
  await umzug.up()
}
