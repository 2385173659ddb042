import { evaluate, evaluateOptions } from './evaluate.ts';
import { overlap } from './overlap.ts';
import { isWrittenFormat, type Output, read } from './read.ts';

const USAGE = `usage: zubrell read FILE [--to json|csv|xlsx|ofx|camt053]
       zubrell overlap A B
       zubrell evaluate FILE.csv [--lines] [--with OTHER.csv ...]
       zubrell verify BOOKS [--since HASH]
       zubrell rebuild BOOKS
       zubrell reset-link EMAIL [--without-second-factor]
  read FILE     any bank file to JSON lines or another format; problems go to standard error
  overlap A B   which lines of B are already in A, both of one bank account
  evaluate FILE how well coded lines of the past would have been proposed for, month by month;
                with --lines what for each, with --with as if OTHER.csv were other books of
                the same bookkeeper
  verify BOOKS  whether steps and records of books, by name or id, are as they were written
  rebuild BOOKS  works out anew what habits learned and what is proposed
  reset-link EMAIL  a link by which somebody sets a new password`;

const [command, first, second, ...more] = process.argv.slice(2);
// File names are relative to where the command was called, not to the project.
const from = process.env.INIT_CWD ?? process.cwd();
const output: Output = {
  out: (content) => process.stdout.write(content),
  err: (text) => process.stderr.write(text),
};

const [format] = more;
const evaluated = evaluateOptions(process.argv.slice(4));
if (command === 'read' && first !== undefined && second === undefined) {
  process.exitCode = await read(first, from, output);
} else if (command === 'read' && first && second === '--to' && isWrittenFormat(format)) {
  process.exitCode = await read(first, from, output, format);
} else if (command === 'overlap' && first && second && more.length === 0) {
  process.exitCode = await overlap([first, second], from, output);
} else if (command === 'evaluate' && first && evaluated) {
  process.exitCode = await evaluate(first, from, output, evaluated);
} else {
  output.err(`${USAGE}\n`);
  process.exitCode = 2;
}
