import pg from 'pg'
import { QueryTypes, Sequelize, type Transaction } from 'sequelize'
import { defineModels } from './models'

/** A connected store. One per process. */
export interface Database {
  readonly sequelize: Sequelize
  readonly url: string
  /** Rows of a query with `$1`… parameters. */
  readonly rows: <T extends object>(sql: string, bind?: unknown[], transaction?: Transaction) => Promise<T[]>
  readonly close: () => Promise<void>
}

/** Connects; does not migrate. */
export function openDatabase(url: string): Database {
  const sequelize = new Sequelize(url, { dialect: 'postgres', dialectModule: pg, logging: false, pool: { max: 8 } })
  defineModels(sequelize)
  return {
    sequelize,
    url,
    rows: (sql, bind = [], transaction) => sequelize.query(sql, { bind, type: QueryTypes.SELECT, ...(transaction === undefined ? {} : { transaction }) }),
    close: () => sequelize.close(),
  }
}
