import { changesIn } from './deliveries'
import { comparison, takeOver } from './new-version'
import { layPart, pageOf, peaksOf, utteranceOf, whyOf, wordTimesOf } from './parts'
import { found, produce, proposal, styleCounts } from './proposals'
import { divisionOf, findIn, materialOf, operate, orderDelivery, readMissing, scriptFile, summarise, undoEdit, wordUses } from './scripts'

/** Use cases that can take long for a large script or document: done in the server for small ones, in a process beside it for others. */
export const tasks = {
  summarise, readMissing, orderDelivery, findIn, divisionOf, operate, undoEdit, materialOf, wordUses, scriptFile,
  pageOf, utteranceOf, wordTimesOf, peaksOf, layPart, whyOf,
  found, proposal, produce, styleCounts,
  comparison, takeOver,
  changesIn,
}

export type TaskName = keyof typeof tasks
export type TaskInput<N extends TaskName> = Parameters<(typeof tasks)[N]>[1]
export type TaskResult<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
