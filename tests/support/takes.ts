import { FolderStorage } from '../../takes/folder-storage'
import { Packs, type NewTake } from '../../takes/packs'
import type { TakeRecord } from '../../takes/take'

/** A take as an engine makes it, in a pack that nobody looks into. */
export function takeRecord(key: string, change: Partial<TakeRecord> = {}): TakeRecord {
  return { key, variant: 0, origin: 'engine', textHash: null, sampleRate: 22_050, sampleCount: 22_050, wordMarks: [], pack: 'p', offset: 0, checksum: 0, ...change }
}

/** Audio of an engine that is not in a pack yet. */
export function newTake(key: string, samples: Int16Array, change: Partial<NewTake> = {}): NewTake {
  return { key, variant: 0, origin: 'engine', textHash: null, sampleRate: 22_050, wordMarks: [], samples, ...change }
}

class OwnPacks extends Packs {
  constructor(readonly storage: FolderStorage) {
    super(storage)
  }

  override async close(): Promise<void> {
    await super.close()
    await this.storage.close()
  }
}

/** Packs in a folder of their own, which is closed with them. */
export function packsIn(folder: string): Packs {
  return new OwnPacks(new FolderStorage(folder))
}
