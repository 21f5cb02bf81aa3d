import { Command, InvalidArgumentError } from 'commander'

/** The command line as a table of contents. What a command needs is loaded when it runs. */
export function program(): Command {
  const quill = new Command('quill')
    .description('Turns a document into numbered narration files. Needs no server and no database.')
    .exitOverride()
    .showHelpAfterError('Run quill --help, or quill COMMAND --help.')

  quill.command('voices')
    .description('list the voices')
    .option('--lang <tag>', 'only voices of this language')
    .option('--variants', 'list the variants; use one as VOICE+VARIANT')
    .option('--json', 'print JSON')
    .action(async flags => (await import('./voices')).listVoices(flags))

  voiceOptions(intakeOptions(quill.command('outline')))
    .description('show the parts of a document')
    .argument('<file>')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./outline')).outline(file, flags))

  voiceOptions(intakeOptions(quill.command('plan')))
    .description('show the files that would be made, with their lengths')
    .argument('<file>')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./plan')).plan(file, flags))

  voiceOptions(intakeOptions(quill.command('read')))
    .description('make the audio files')
    .argument('<file>')
    .requiredOption('--out <folder>', 'where the files go')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./read')).read(file, flags))

  quill.command('doctor')
    .description('check what the work needs: programs, space, and the server if it runs')
    .option('--cache <folder>', 'where finished audio is kept (default ~/.cache/orator-quill)')
    .option('--json', 'print JSON')
    .action(async flags => (await import('./doctor')).doctor(flags))

  return quill
}

function intakeOptions(command: Command): Command {
  return command
    .option('--by <heading:N>', 'begin a part at every heading of level N or above', splitLevel)
    .option('--language <tag>', 'language of the text, e.g. en, en-GB, de')
    .option('--encoding <name>', 'encoding of a text file, e.g. windows-1252')
}

function voiceOptions(command: Command): Command {
  return command
    .option('--voice <id>', 'voice, or VOICE+VARIANT; see quill voices')
    .option('--wpm <n>', 'pace in words a minute', number('wpm'))
    .option('--pitch <semitones>', 'pitch against the voice’s own, e.g. -2', number('pitch'))
    .option('--volume <dB>', 'level below the engine’s full level, e.g. -6', number('volume'))
    .option('--house-style <file>', 'rests as a JSON file (docs/formats.md)')
    .option('--cache <folder>', 'where finished audio is kept (default ~/.cache/orator-quill)')
}

function splitLevel(value: string): number {
  const match = /^heading:([1-9])$/u.exec(value)
  if (match === null) throw new InvalidArgumentError('Write heading:N with N from 1 to 9, e.g. heading:2.')
  return Number(match[1])
}

function number(name: string): (value: string) => number {
  return value => {
    const result = Number(value.replace(/(?:st|db)$/iu, ''))
    if (value.trim() === '' || !Number.isFinite(result)) throw new InvalidArgumentError(`--${name} takes a number.`)
    return result
  }
}
