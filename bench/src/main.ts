import { parseArgs } from 'node:util';
import { accuracy } from './accuracy/accuracy.ts';
import { firstMonth } from './accuracy/firstMonth.ts';
import { fitSureness } from './accuracy/fitSureness.ts';
import { stems } from './accuracy/stems.ts';
import { desk } from './desk.ts';
import { faults } from './faults/faults.ts';
import { firstScreen } from './firstScreen.ts';
import { fuzz } from './fuzz.ts';
import { keepFile } from './keepFile.ts';
import { largeFile } from './largeFile.ts';
import { manyBooks } from './manyBooks.ts';
import { million } from './million.ts';
import { cleanMonth } from './month/cleanMonth.ts';
import { messyMonth } from './month/messyMonth.ts';
import { overview } from './overview.ts';
import { pairs } from './pairs/pairs.ts';
import { pairsSpeed } from './pairs/pairsSpeed.ts';
import { properties } from './properties.ts';
import { proposeLines } from './proposeLines.ts';
import type { Benchmark } from './ratio.ts';
import { readFormats } from './readFormats.ts';
import { readOfxDump } from './readOfxDump.ts';
import { recover } from './recover.ts';
import { reports } from './reports.ts';
import { ruleLines } from './ruleLines.ts';
import { rulesLive } from './rulesLive.ts';
import { isTiny } from './sized.ts';
import { soak } from './soak.ts';
import { spoiled } from './spoiled.ts';
import { statements } from './statements/statements.ts';
import { twoServers } from './twoServers.ts';
import { walks } from './walks.ts';

/** Every benchmark, by the name it can be run alone with. */
const BENCHMARKS: Readonly<Record<string, Benchmark>> = {
  readFormats,
  readOfxDump,
  keepFile,
  largeFile,
  desk,
  firstScreen,
  cleanMonth,
  messyMonth,
  accuracy,
  firstMonth,
  stems,
  pairs,
  pairsSpeed,
  statements,
  overview,
  reports,
  proposeLines,
  ruleLines,
  rulesLive,
  spoiled,
  walk: walks,
  fuzz,
  properties,
  faults,
  soak,
  manyBooks,
  twoServers,
  million,
  recover,
};

/** What is only run when it is asked for by name: it writes into the sources. */
const ON_REQUEST: Readonly<Record<string, Benchmark>> = { fitSureness };

const { values, positionals: wanted } = parseArgs({
  allowPositionals: true,
  options: { tiny: { type: 'boolean' }, part: { type: 'string', default: '1/1' } },
});
/** Which of how many parts of all benchmarks are run, so that several processes can share them. */
const [part = 1, parts = 1] = values.part.split('/').map(Number);
const unknown = wanted.filter((name) => !(name in BENCHMARKS) && !(name in ON_REQUEST));
if (unknown.length > 0) {
  process.stderr.write(
    `no benchmark ${unknown.join(', ')}; there are: ${Object.keys(BENCHMARKS)}\n`,
  );
  process.exit(2);
}
if (isTiny) process.stdout.write('Too small to measure anything: only whether it runs.\n');
for (const name of wanted) {
  const asked = ON_REQUEST[name];
  if (asked) process.stdout.write(await asked());
}
for (const [no, [name, benchmark]] of Object.entries(BENCHMARKS).entries()) {
  const isMine = no % parts === part - 1;
  if (isMine && (wanted.length === 0 || wanted.includes(name))) {
    process.stdout.write(await benchmark());
  }
}
