import type { Benchmark } from './ratio.ts';
import { readOfx } from './readOfx.ts';

/** Every benchmark, by the name it can be run alone with. */
const BENCHMARKS: Readonly<Record<string, Benchmark>> = { readOfx };

const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !(name in BENCHMARKS));
if (unknown.length > 0) {
  process.stderr.write(
    `no benchmark ${unknown.join(', ')}; there are: ${Object.keys(BENCHMARKS)}\n`,
  );
  process.exit(2);
}
for (const [name, benchmark] of Object.entries(BENCHMARKS)) {
  if (wanted.length === 0 || wanted.includes(name)) process.stdout.write(await benchmark());
}
