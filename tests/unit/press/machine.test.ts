import { join } from 'node:path'
import { writeFile } from 'node:fs/promises'
import { spaceFinding } from '#core/health'
import { ProblemError } from '#core/problem'
import { machineFindings } from '../../../press/machine'
import { FolderStorage } from '../../../takes/folder-storage'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const stateOf = async (needs: Parameters<typeof machineFindings>[0]) => new Map((await machineFindings(needs)).map(finding => [finding.subject, finding]))

describe('a look at the machine', () => {
  test('says what is there', async () => {
    const found = await stateOf({ engines: [{ name: 'One', about: () => Promise.resolve({ found: 'one 1.51, 2 voices', remedy: null }) }], storage: new FolderStorage(join(folder(), 'new')) })
    expect([...found.values()].map(finding => [finding.state, finding.remedy])).toEqual(Array.from({ length: 4 }, () => ['good', null]))
    expect(found.get('Speech engine')!.found).toBe('one 1.51, 2 voices')
    expect(found.get('Encoder')!.found).toMatch(/^ffmpeg \d/u)
  })

  test('says what is missing, with what to do, and goes on', async () => {
    await writeFile(join(folder(), 'file'), '')
    const found = await stateOf({
      engines: [{ name: 'One', about: () => Promise.reject(new ProblemError({ code: 'engine-missing', message: 'The speech engine is not installed. Run bin/start once.' })) }], storage: new FolderStorage(join(folder(), 'file', 'in it')),
    })
    expect(found.get('Speech engine')).toEqual({ subject: 'Speech engine', state: 'bad', found: 'The speech engine is not installed.', remedy: 'Run bin/start once.' })
    expect(found.get('Storage')).toMatchObject({ state: 'bad', found: expect.stringContaining('ENOTDIR') as string })
    expect(found.get('Encoder')!.state).toBe('good')
  })

  test('an engine that works less well than it could is poor, with what to do', async () => {
    const found = await stateOf({ engines: [{ name: 'One', about: () => Promise.resolve({ found: 'one, without times', remedy: 'Install it again.' }) }], storage: new FolderStorage(folder()) })
    expect(found.get('Speech engine')).toEqual({ subject: 'Speech engine', state: 'poor', found: 'one, without times', remedy: 'Install it again.' })
  })

  test.each([[100e6, 'bad'], [1e9, 'poor'], [50e9, 'good']])('%d free bytes are %s', (bytes, state) => {
    expect(spaceFinding(bytes, '/data')).toMatchObject({ state, found: `${(bytes / 1e9).toFixed(1)} GB for /data` })
  })
})
