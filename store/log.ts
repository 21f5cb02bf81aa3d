import { pino, type Logger } from 'pino'

/**
 * The log of a process: one JSON object a line on standard error, which the start command keeps in `var/log`. An
 * entry names the request (`request`) or the job (`job`) it belongs to.
 */
export const log: Logger = pino({ timestamp: pino.stdTimeFunctions.isoTime, formatters: { level: label => ({ level: label }) }, base: { pid: process.pid } }, pino.destination({ fd: 2, sync: true }))
