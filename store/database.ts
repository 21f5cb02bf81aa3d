import pg from 'pg'
import { ConnectionError, QueryTypes, Sequelize, type Transaction } from 'sequelize'
import { defineModels } from './models'

/** A connected store. One per process. */
export interface Database {
  readonly sequelize: Sequelize
  readonly url: string
  /** Rows of a query with `$1`… parameters. */
  readonly rows: <T extends object>(sql: string, bind?: unknown[], transaction?: Transaction) => Promise<T[]>
  readonly close: () => Promise<void>
}

/** Whether an error says that the database cannot be reached just now, or went away in the middle. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false
  const { code } = ((error as { parent?: unknown }).parent ?? error) as { code?: unknown }
  return error instanceof ConnectionError
    || /^Connection terminated|^terminating connection|Client has encountered a connection error/u.test(error.message)
    || ['57P01', '57P02', '57P03', '08006', '08003', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(String(code))
}

/** Why a process cannot start, in one line: an error of its first look at the database, or another. */
export function startProblem(name: string, url: string | undefined, error: unknown): string {
  if (url === undefined || !isDatabaseAway(error)) return `The ${name} cannot start: ${(error as Error).message}`
  const { host } = new URL(url)
  return `The ${name} cannot start: the database at ${host} does not answer. Start it, or start everything with bin/start; see its log in var/pg/log.`
}

/**
 * For every connection: no query here lasts long enough to be worth the time in which PostgreSQL compiles it, and the lists of keys of a large production are joined in
 * memory.
 */
const settings = '-c jit=off -c work_mem=32MB'

/** Connects, with at most so many connections; does not migrate. */
export function openDatabase(url: string, connections = 8): Database {
  const sequelize = new Sequelize(url, { dialect: 'postgres', dialectModule: pg, logging: false, pool: { max: connections }, dialectOptions: { options: settings } })
  defineModels(sequelize)
  return {
    sequelize,
    url,
    rows: (sql, bind = [], transaction) => sequelize.query(sql, { bind, type: QueryTypes.SELECT, ...(transaction === undefined ? {} : { transaction }) }),
    close: () => sequelize.close(),
  }
}
