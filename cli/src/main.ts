import { read } from './read.ts';

const USAGE = `usage: zubrell read FILE
  read FILE   any bank file to JSON lines; problems go to standard error`;

const [command, ...args] = process.argv.slice(2);
// File names are relative to where the command was called, not to the project.
const from = process.env.INIT_CWD ?? process.cwd();

if (command === 'read' && args.length === 1) {
  process.exitCode = await read(args[0] ?? '', from, {
    out: (text) => process.stdout.write(text),
    err: (text) => process.stderr.write(text),
  });
} else {
  process.stderr.write(`${USAGE}\n`);
  process.exitCode = 2;
}
