import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import { build } from '@carafe/core/build';
import { sayCut } from '@carafe/core/check';
import { plainErrors } from '@carafe/core/errors';
import { prepare, type Mail, type Render } from '@carafe/core/render';
import type { Template } from '@carafe/core/template';
import { counted } from '@carafe/core/words';
import { Command } from 'commander';
import { checkFiles, variantsOf, type CheckFlags } from './cliCheck';
import { fieldOf, isRecord, type Fields } from '@carafe/core/formula';
import { dayGiven, RecordsIn, templateIn } from './cliFiles';
import { withLibrary, type LibraryFlags } from './cliLibrary';
import { picks, type PicksFlags } from './cliPicks';
import { UsageError } from './usageError';

interface RenderFlags extends LibraryFlags {
  template: string;
  records: string;
  out?: string;
  locale?: string;
  asOf?: string;
}

async function rendererFor(flags: RenderFlags): Promise<{ template: Template; render: Render }> {
  const template = withLibrary(templateIn(flags.template), flags);
  const { program, findings } = await build(template);
  for (const { severity, node, path: at, column, message } of findings)
    console.error(
      `${severity}: ${node || 'envelope'} ${at}${column ? `, column ${column}` : ''}: ${message}`,
    );
  const errors = findings.filter(({ severity }) => severity === 'error').length;
  // A formula that cannot be read makes no email that anybody should get.
  if (errors > 0)
    throw new BrokenTemplate(`${counted(errors, 'error')} in the template; nothing was filled.`);
  return { template, render: prepare(program) };
}

/** A template with errors: nothing is filled, and the exit code is 1. */
class BrokenTemplate extends Error {}

/** Whom a record is about; blank where it does not say. */
function recipientOf(record: Fields): string {
  const person = fieldOf(record, 'person');
  const email = isRecord(person) ? fieldOf(person, 'email') : undefined;
  return typeof email === 'string' ? email : '';
}

/** Where an email comes from: its line in the file of records, and its recipient. */
interface Origin {
  line: number;
  to: string;
}

/** Writes a mail as files in a folder, named by line and recipient. */
function intoFolder(folder: string): (mail: Mail, origin: Origin) => Promise<void> {
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    const { code = '' } = error as NodeJS.ErrnoException;
    const isFile = code === 'EEXIST' || code === 'ENOTDIR';
    const why = isFile ? 'a file is in its place' : 'this user is not allowed to';
    throw new UsageError(`The folder ${folder} cannot be made: ${why}.`);
  }
  return async (mail, { line, to }) => {
    const whom = to.replace(/[^A-Za-z0-9@._+-]/g, '_').slice(0, 100);
    const name = [String(line).padStart(6, '0'), whom].filter(Boolean).join('-');
    const stem = join(folder, name);
    const { from, to_name, subject, preview_text, headers } = mail;
    writeFileSync(`${stem}.html`, mail.html);
    writeFileSync(`${stem}.txt`, mail.text);
    const envelope = { line, to, from, to_name, subject, preview_text, headers };
    writeFileSync(`${stem}.json`, `${JSON.stringify(envelope, null, 2)}\n`);
  };
}

/** Writes a mail as one line of NDJSON, waiting where the reader is slower. */
function intoStream(stream: Writable): (mail: Mail, origin: Origin) => Promise<void> {
  return async (mail, origin) => {
    if (!stream.write(`${JSON.stringify({ ...origin, ...mail })}\n`)) await once(stream, 'drain');
  };
}

async function render(flags: RenderFlags): Promise<number> {
  const { template, render: fill } = await rendererFor(flags);
  const asOf = dayGiven(flags.asOf);
  const write = flags.out === undefined ? intoStream(process.stdout) : intoFolder(flags.out);
  const progress = (done: number) => process.stderr.write(`\r${counted(done, 'email')}`);
  const records = new RecordsIn(flags.records);
  let done = 0;
  for await (const { line, record } of records.read()) {
    const { mail, cut } = fill(record, { asOf, locale: flags.locale });
    if (cut) {
      records.refuse(line, `${sayCut(template, cut)} It is left out.`);
      continue;
    }
    await write(mail, { line, to: recipientOf(record) });
    done++;
    if (done % 500 === 0) progress(done);
  }
  const { failed } = records;
  progress(done);
  process.stderr.write(
    failed > 0 ? `, ${counted(failed, 'line gave', 'lines gave')} no email\n` : '\n',
  );
  return failed > 0 ? 1 : 0;
}

plainErrors();
const program = new Command('carafe')
  .description('Fills templates from files.')
  // Commander has told what is wrong by then; 1 is left to mails that have errors.
  .exitOverride(({ exitCode }) => process.exit(exitCode === 0 ? 0 : 2));
program
  .command('render')
  .description('Fill a template for every record of an NDJSON file.')
  .requiredOption('--template <file>', 'template JSON')
  .requiredOption('--records <file>', 'NDJSON, one record a line; - for standard input')
  .option(
    '--out <folder>',
    'write HTML, text and envelope files here instead of NDJSON on standard output',
  )
  .option('--locale <tag>', 'language and region to print in, such as de-DE')
  .option('--as-of <date>', 'the day to fill the emails for')
  .option('--library <file>', 'JSON with the notes and formulas used by the template')
  .option('--data <folder>', 'the data folder of the Carafe whose library to use')
  .action(async (flags: RenderFlags) => {
    process.exitCode = await render(flags);
  });

const filled = (command: Command): Command =>
  command
    .requiredOption('--template <file>', 'template JSON')
    .requiredOption('--records <file>', 'NDJSON, one record a line; - for standard input')
    .option('--as-of <date>', 'the day to fill the emails for')
    .option('--library <file>', 'JSON with the notes and formulas used by the template')
    .option('--data <folder>', 'the data folder of the Carafe whose library to use');
filled(
  program
    .command('check')
    .description('Check a template over every record; exit code 1 where there are errors.'),
)
  .option('--format <form>', 'text, json or sarif', 'text')
  .action(async (flags: CheckFlags) => {
    process.exitCode = await checkFiles(flags);
  });
filled(
  program
    .command('variants')
    .description('Print the different emails that the records produce, most common first.'),
)
  .option('--format <form>', 'text or json', 'text')
  .action(async (flags: CheckFlags) => {
    process.exitCode = await variantsOf(flags);
  });

program
  .command('picks')
  .description('Print what a recommendation rule picks, as NDJSON, one person a line.')
  .requiredOption('--rule <name>', 'the rule, by its name in formulas')
  .option('--shop <id>', 'where several shops have a rule of this name')
  .option('--people <file>', 'addresses, one a line; - for standard input; everybody if left out')
  .option('--data <folder>', 'the data folder of Carafe; CARAFE_DATA, or data beside it')
  .action(async (flags: PicksFlags) => picks(flags, new Date()));

process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  // The reader of a pipe has seen enough.
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});
program.parseAsync().catch((error: unknown) => {
  if (error instanceof BrokenTemplate) {
    console.error(error.message);
    process.exitCode = 1;
    return;
  }
  if (!(error instanceof UsageError)) throw error;
  console.error(error.message);
  process.exitCode = 2;
});
