import { Argument, Command, InvalidArgumentError, Option } from 'commander'
import { engineKinds } from '#voices/registry'
import { nameFields } from '#core/delivery/naming'
import { profileNames } from '#core/delivery/profiles'
import { announcementFields, type AnnouncedPlace } from '#core/script/announcements'
import { scriptFormats } from '#core/script/export'
import { presetNames } from '#core/style/presets'
import { columns, fileSplit, limit, pageRange, sentenceLimit, split } from './choices'

const nameHelp = `names of files: ${nameFields.map(name => `{${name}}`).join(' ')}`
const fieldsOf = (place: AnnouncedPlace): string => announcementFields[place].map(name => `{${name}}`).join(' ')
const profileHelp = `delivery profile: ${profileNames.join(', ')}, or a JSON file (docs/formats.md)`
const reportHelp = 'write the conformance report: to a file that ends with .html, .csv or .json'

const splitHelp = 'one file for each: part, slide, heading:N, blank:N, passage, sentence, whole, or about:30min; and behind a comma max:60min or max:50mb (default: as the profile says)'

/** The command line as a table of contents. What a command needs is loaded when it runs. */
export function program(): Command {
  const quill = new Command('quill')
    .description('Turns a document into numbered narration files. Needs no server and no database.')
    .exitOverride()
    .showHelpAfterError('Run quill --help, or quill COMMAND --help.')

  quill.command('voices')
    .description('list the voices')
    .option('--lang <tag>', 'only voices of this language')
    .addOption(engineOption('only voices of this engine'))
    .option('--variants', 'list the variants; use one as VOICE+VARIANT')
    .option('--json', 'print JSON')
    .action(async flags => (await import('./voices')).listVoices(flags))

  voiceOptions(intakeOptions(quill.command('outline')))
    .description('show the parts of a document')
    .argument('<file>', 'a file, or a folder of them')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./outline')).outline(file, flags))

  voiceOptions(intakeOptions(quill.command('text')))
    .description('show what would be read, one passage a line')
    .argument('<file>', 'a file, or a folder of them')
    .action(async (file, flags) => (await import('./text')).text(file, flags))

  voiceOptions(intakeOptions(quill.command('spoken')))
    .description('show the text as it is spoken, one passage a line')
    .argument('<file>', 'a file, or a folder of them')
    .option('--json', 'print JSON, with the map between what is written and what is spoken')
    .action(async (file, flags) => (await import('./spoken')).spoken(file, flags))

  voiceOptions(intakeOptions(quill.command('census')))
    .description('show every word and number that the voice may get wrong, with how it says it now')
    .argument('<file>', 'a file, or a folder of them')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./census')).takeCensus(file, flags))

  intakeOptions(quill.command('style-check'))
    .description('show what is not for a synthetic narrator: we, asides, idle phrases, abbreviations, long sentences, what a listener cannot see')
    .argument('<file>', 'a file, or a folder of them')
    .option('--longest <n>', 'longest sentence that is not reported, in words (35)', sentenceLimit)
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./style-check')).styleCheck(file, flags))

  quill.command('house-style')
    .description('print a house style to start from, as JSON')
    .addArgument(new Argument('[preset]', 'which').choices([...presetNames]).default('plain'))
    .option('--schema', 'print the JSON Schema of its file')
    .action(async (preset, flags) => (await import('./house-style')).printHouseStyle(preset, flags))

  quill.command('profile')
    .description('print a delivery profile to start from, as JSON')
    .addArgument(new Argument('[name]', 'which').choices([...profileNames]).default('book'))
    .option('--schema', 'print the JSON Schema of its file')
    .action(async (name, flags) => (await import('./profile')).printProfile(name, flags))

  quill.command('check-audio')
    .description('measure the audio files of a folder against a delivery profile; ends with 1 when one does not pass')
    .argument('<folder>', 'where they lie')
    .option('--profile <profile>', profileHelp)
    .option('--report <file>', reportHelp)
    .option('--json', 'print JSON')
    .action(async (folder, flags) => (await import('./check-audio')).checkAudio(folder, flags))

  quill.command('check')
    .description('check SSML against version 1.1')
    .argument('<file>', 'an SSML file')
    .addOption(engineOption('say what this engine’s voices cannot do'))
    .option('--fragment', 'the file is a piece of SSML without a root')
    .option('--language <tag>', 'language of a fragment', 'en')
    .option('--encoding <name>', 'encoding of the file, e.g. windows-1252')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./check')).check(file, flags))

  intakeOptions(quill.command('script'))
    .description('write the script of a document as a file')
    .argument('<file>', 'a file, or a folder of them')
    .addOption(new Option('--to <format>', 'kind of file').choices([...scriptFormats]).makeOptionMandatory())
    .option('--out <file>', 'where it goes: a file, or for SSML a folder with a file for each part; else it is printed')
    .action(async (file, flags) => (await import('./script')).script(file, flags))

  sheetOptions(voiceOptions(intakeOptions(quill.command('plan'))))
    .description('show the files that would be made, with their lengths')
    .argument('<file>', 'a file, or a folder of them')
    .option('--json', 'print JSON')
    .action(async (file, flags) => (await import('./plan')).plan(file, flags))

  sheetOptions(voiceOptions(intakeOptions(quill.command('read'))))
    .description('make the audio files')
    .argument('<file>', 'a file, or a folder of them')
    .requiredOption('--out <folder>', 'where the files go')
    .option('--cover <picture>', 'JPEG or PNG for the tags')
    .option('--genre <name>', 'for the tags')
    .option('--disc <number>', 'place in a set, e.g. 1/2')
    .option('--comment <text>', 'for the tags')
    .option('--report <file>', reportHelp)
    .option('--anyway <reason>', 'why the files are delivered although some fail: for the report; the run then ends with 0')
    .option('--strict', 'stop where the voice cannot do what the script asks for; otherwise that is said, and it is read with what is nearest')
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
    .option('--by <where>', 'where parts begin: heading:N, pattern:RE, blank:N (empty lines), rule, even:Nmin', split)
    .addOption(new Option('--footnotes <where>', 'footnotes and endnotes').choices(['leave-out', 'in-place', 'at-end']))
    .addOption(new Option('--tables <how>', 'tables of a document').choices(['read', 'with-headers', 'leave-out']))
    .addOption(new Option('--images <how>', 'descriptions of images').choices(['leave-out', 'read']))
    .addOption(new Option('--from <what>', 'of a deck').choices(['notes', 'slide', 'both']))
    .option('--hints', 'make a part of each short text on a slide')
    .option('--opening <template>', 'first line of each article, e.g. "{title}, by {author}"')
    .option('--columns <names>', 'columns of a table, e.g. title=Headline,body=Text', columns)
    .option('--delimiter <sign>', 'between the columns of a table: comma, semicolon, tab, pipe, or one character')
    .option('--first <n>', 'only the first sentences or parts, e.g. 20s or 3parts', limit('sentences', 'parts'))
    .option('--each <n>', 'only the first sentences or words of each part, e.g. 2s or 50words', limit('sentences', 'words'))
    .option('--pages <range>', 'only these pages, e.g. 12-30', pageRange)
    .option('--language <tag>', 'language of the text, e.g. en, en-GB, de')
    .option('--encoding <name>', 'encoding of a text file, e.g. windows-1252')
}

function engineOption(help: string): Option {
  return new Option('--engine <id>', help).choices(engineKinds().map(({ capabilities }) => capabilities.id))
}

function voiceOptions(command: Command): Command {
  return command
    .option('--voice <id>', 'voice, or VOICE+VARIANT; see quill voices')
    .addOption(engineOption('a voice of this engine'))
    .option('--wpm <n>', 'pace in words a minute', number('wpm'))
    .option('--pitch <semitones>', 'pitch against the voice’s own, e.g. -2', number('pitch'))
    .option('--volume <dB>', 'level below the engine’s full level, e.g. -6', number('volume'))
    .option('--wordbook <file>', 'how words are said: a PLS lexicon or a CSV file (docs/formats.md); may be given again, the first counts most', collect)
    .option('--house-style <file>', 'house style: a JSON file (docs/formats.md), or book, course, articles or plain (default: by the kind of document)')
    .option('--sounds <folder>', 'where the sounds that the script plays lie (default: beside the document)')
    .option('--cache <folder>', 'where finished audio is kept (default ~/.cache/orator-quill)')
}

/** Which files there are, and what they are like. */
function sheetOptions(command: Command): Command {
  return command
    .option('--profile <profile>', `${profileHelp}; may be given again: each then has a folder of its own`, collect)
    .option('--split <where>', splitHelp, fileSplit)
    .option('--name <pattern>', nameHelp)
    .addOption(new Option('--letters <how>', 'of names').choices(['ascii', 'written']))
    .addOption(new Option('--numbers <of>', 'of names: files are counted, or have the number of their slide or part').choices(['files', 'parts']))
    .option('--narrator <name>', 'for tags and announcements')
    .option('--year <year>', 'for tags and announcements')
    .option('--copyright <text>', 'for tags and announcements')
    .option('--announce-opening <text>', `said before everything: ${fieldsOf('opening')}`)
    .option('--announce-part <text>', `said before each chapter, slide or article: ${fieldsOf('part')}`)
    .option('--announce-closing <text>', `said after everything: ${fieldsOf('closing')}`)
    .addOption(new Option('--announce-files <which>', 'announcements that are files of their own; credits: opening and closing').choices(['none', 'credits', 'all']))
    .addOption(new Option('--announce-repeats <how>', 'parts whose own title says the same').choices(['say', 'skip']))
    .option('--announcer <voice>', 'voice that speaks announcements (default: that of the text)')
    .option('--intro <file>', 'a sound that is heard first, from the folder of sounds')
    .option('--outro <file>', 'a sound that is heard last')
    .option('--room-tone <file>', 'a quiet sound that is under all speech and silence, again and again')
    .addOption(new Option('--sounds-around <what>', 'where intro and outro are heard').choices(['production', 'part']))
}

function collect(value: string, before: readonly string[] = []): string[] {
  return [...before, value]
}

function number(name: string): (value: string) => number {
  return value => {
    const result = Number(value.replace(/(?:st|db)$/iu, ''))
    if (value.trim() === '' || !Number.isFinite(result)) throw new InvalidArgumentError(`--${name} takes a number.`)
    return result
  }
}
