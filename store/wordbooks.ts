import { Op, type Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { Wordbook } from '#core/words/wordbook'
import { WordbookRow, WordRow } from './models'

/** The wordbook of a production, made when there is none yet; without a production the shared one. Gives its id. */
export async function wordbookId(productionId: string | null, transaction?: Transaction): Promise<string> {
  const options = transaction === undefined ? {} : { transaction }
  const known = await WordbookRow.findOne({ where: { productionId }, ...options })
  return (known ?? await WordbookRow.create({ id: uuidv7(), productionId }, options)).id
}

/** Keeps what a file that is brought in holds besides its entries: namespaces, metadata. */
export async function keepOfFile(id: string, kept: NonNullable<Wordbook['kept']>): Promise<void> {
  const row = await WordbookRow.findByPk(id, { rejectOnEmpty: true })
  await row.update({ kept: { attributes: { ...row.kept?.attributes, ...kept.attributes }, elements: [...new Set([...row.kept?.elements ?? [], ...kept.elements ?? []])] } })
}

export interface StoredWordbook extends Wordbook {
  readonly isShared: boolean
}

/** The wordbooks that count for a production, the nearer first. */
export async function wordbooksOf(productionId: string): Promise<StoredWordbook[]> {
  const books = await WordbookRow.findAll({ where: { [Op.or]: [{ productionId }, { productionId: null }] } })
  const rows = await WordRow.findAll({ where: { wordbookId: books.map(book => book.id) }, order: [['ordinal', 'ASC']], raw: true })
  return books.sort((a, b) => Number(a.productionId === null) - Number(b.productionId === null)).map(book => ({
    version: 1, isShared: book.productionId === null, entries: rows.filter(row => row.wordbookId === book.id).map(({ id, entry }) => ({ id, ...entry })),
    ...(book.kept === null || book.kept === undefined ? {} : { kept: book.kept }),
  }))
}
