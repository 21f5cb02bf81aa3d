import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { rolesOfPassage } from '#core/script/script'
import type { Place } from '../../services/place'
import { scriptFile } from '../../services/scripts'
import type { Database } from '../../store/database'
import { deliveryDesk } from '../../store/deliveries'
import { loadEdition } from '../../store/editions'
import { undo } from '../../store/edits'
import { PassageRow } from '../../store/models'
import { scriptOf } from '../../store/score'
import { bringUpToDate, summariesOf } from '../../store/summaries'
import { ownDatabase } from '../support/database'

// The demo as an earlier release has left it, at step 13 of the schema: five chapters and a title read, one changed afterwards, two files delivered.
const dump = join(import.meta.dirname, 'fixtures/demo-at-step-13.sql.gz')
const { database } = ownDatabase(client => client.query(gunzipSync(readFileSync(dump)).toString('utf8')))

async function editionOf(store: Database, title: string): Promise<string> {
  const [row] = await store.rows<{ id: string }>('SELECT e.id FROM editions e JOIN productions p ON p.id = e.production_id WHERE p.title = $1', [title])
  return row!.id
}

/** With it the files were made. */
const encoder = 'ffmpeg 5.1.9-0+deb12u1'

describe('a database of an earlier release', () => {
  test('keeps its productions, and what is read of them counts as read', async () => {
    const missing: Record<string, (string | number)[][]> = {}
    for (const title of ['The Marrow Lane Year', 'The First Spring Inspection', 'Notes from the Hive Stand']) {
      const id = await editionOf(database(), title)
      await bringUpToDate(database(), id)
      const parts = (await summariesOf(database(), [id])).get(id)!
      missing[title] = parts.filter(({ summary }) => summary.included && summary.missing > 0).map(({ summary }) => [summary.label, summary.state, summary.missing])
    }
    expect(missing['The Marrow Lane Year']).toEqual([
      ['What the Entrance Tells', 'stale', 1], ['A Quarrel over Supers', 'unread', 21], ['Lime Flow', 'unread', 14], ['The Mite Count', 'unread', 20], ['Heather and Ivy', 'unread', 19],
    ])
    expect(missing['The First Spring Inspection']).toHaveLength(23)
    expect(missing['Notes from the Hive Stand']).toHaveLength(5)
  })

  test('calls roles by their ids, in passages and in directions, and in what can be undone', async () => {
    const id = await editionOf(database(), 'The Marrow Lane Year')
    const loaded = await loadEdition(id)
    expect(loaded.roles.map(({ name }) => name)).toEqual(['Narrator', 'Tamsin', 'Oswin'])
    const ids = new Set(loaded.roles.map(role => role.id))
    const passages = (await scriptOf(loaded)).parts.flatMap(part => part.passages)
    const called = passages.flatMap(rolesOfPassage)
    expect(called.length).toBeGreaterThan(5)
    expect(called.filter(role => !ids.has(role))).toEqual([])
    expect((await scriptFile({ database: database() } as Place, { editionId: id, format: 'ssml' })).toString()).toMatch(/quill:role="Tamsin"[\s\S]*quill:role="Narrator"/u)
    const role = passages.find(passage => passage.role !== undefined)!
    expect(await undo(database(), id, { window: 'the-demo', direction: 'undo' })).toMatchObject({ done: { kind: 'text' } })
    expect((await PassageRow.findByPk(role.id))!.role).toBeNull()
    expect(await undo(database(), id, { window: 'the-demo', direction: 'redo' })).toMatchObject({ done: { kind: 'text' } })
    expect((await PassageRow.findByPk(role.id))!.role).toBe(role.role)
  })

  test('delivered files are kept; those that would be made now are brought to the level of the profile', async () => {
    const loaded = await bringUpToDate(database(), await editionOf(database(), 'The Marrow Lane Year'))
    const { rows, deliveries } = await deliveryDesk(database(), loaded, encoder)
    expect(rows.map(row => row.state)).toEqual(['stale', 'stale', 'ready', 'notRead', 'ready', 'notRead', 'notRead', 'notRead', 'notRead'])
    expect(deliveries).toHaveLength(1)
  })
})
