import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { sampleFile } from '@zubrell/core/testing/sampleFiles';
import { ratio } from './ratio.ts';
import { sized } from './sized.ts';

const DUMPER = '/usr/bin/ofxdump';
/** It is slow on more. */
const LINES = sized(5_000, 50);

/** Reading an OFX file against Debian's native dumper (package `ofx`), where that is installed. */
export async function readOfxDump(): Promise<string> {
  if (!existsSync(DUMPER)) return `Debian's OFX dumper is not installed: left out\n`;
  const bytes = await sampleFile('ofx1', LINES);
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-bench-'));
  const file = join(folder, 'sample.ofx');
  writeFileSync(file, bytes);
  try {
    return await ratio({
      name: `reading OFX, ${LINES} lines`,
      ours: () => readBankFile(bytes, { currency: 'EUR' }),
      peerName: 'Debian’s OFX dumper',
      peer: () => spawnSync(DUMPER, [file], { stdio: 'ignore' }),
      aim: 1,
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
}
