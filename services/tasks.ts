import { changesIn, reportFile } from './deliveries'
import { operate, undoEdit } from './edits'
import { heardScore } from './heard'
import { dictionaryWords, knownWordsOf } from './known-words'
import { comparison, takeOver } from './new-version'
import { layPart, pageOf, peaksOf, samplesOf, utteranceOf, whyOf, wordTimesOf } from './parts'
import { pronunciationsOf } from './pronunciations'
import { found, produce, proposal, styleCounts } from './proposals'
import { passagesOfFile, runSheetOf, runSheetTable } from './run-sheets'
import { divisionOf, findIn, materialOf, orderDelivery, readMissing, scriptFile, summarise } from './scripts'
import { readWordbook, wordbookFile, wordsView } from './wordbooks'

/** Use cases that compute on texts: done in processes beside the server. */
export const tasks = {
  summarise, readMissing, orderDelivery, findIn, divisionOf, operate, undoEdit, materialOf, scriptFile,
  pageOf, utteranceOf, wordTimesOf, peaksOf, layPart, samplesOf, whyOf,
  found, proposal, produce, styleCounts,
  comparison, takeOver,
  changesIn, reportFile,
  runSheetOf, runSheetTable, passagesOfFile,
  heardScore, wordsView, wordbookFile, readWordbook, knownWordsOf, dictionaryWords, pronunciationsOf,
}

export type TaskName = keyof typeof tasks
export type TaskInput<N extends TaskName> = Parameters<(typeof tasks)[N]>[1]
export type TaskResult<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
