import { CommanderError } from 'commander'
import { asProblem, ProblemError } from '#core/problem'
import { program } from './program'

/** Wrong words on the command line: unknown command or option, missing or superfluous argument. */
const usageErrors = new Set([
  'commander.unknownCommand', 'commander.unknownOption', 'commander.missingArgument', 'commander.optionMissingArgument',
  'commander.missingMandatoryOptionValue', 'commander.excessArguments', 'commander.help',
])

// A reader such as head that closes the pipe has seen enough.
process.stdout.on('error', (error: NodeJS.ErrnoException) => { process.exit(error.code === 'EPIPE' ? 0 : 1) })

try {
  await program().parseAsync(process.argv)
} catch (error) {
  process.exitCode = report(error)
}

function report(error: unknown): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : usageErrors.has(error.code) ? 2 : 1
  const known = asProblem(error)
  if (known instanceof ProblemError) {
    const { message, place = (error as NodeJS.ErrnoException).path } = known.problem
    process.stderr.write(`${place === undefined ? '' : `${place}: `}${message}\n`)
  } else {
    process.stderr.write(`Something went wrong: ${(error as Error).message}\n`)
  }
  return 1
}
