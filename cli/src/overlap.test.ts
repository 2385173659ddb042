import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { overlap } from './overlap.ts';
import type { Output } from './read.ts';

describe('overlap', () => {
  it('compares files of any two formats', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'zubrell overlap '));
    writeFileSync(
      join(folder, 'a.csv'),
      'Date;Details;Amount\n03.03.2026;COBBLE CAFE 2;-4,80\n04.03.2026;TIDEMARK FRT 1;-48,50\n',
    );
    writeFileSync(
      join(folder, 'b.qif'),
      '!Type:Bank\nD2026-03-03\nT-4.80\nPCobble Cafe\n^\nD2026-03-03\nT-4.80\nPCobble Cafe\n^\nD2026-03-09\nT1.00\nPNew\n^\n',
    );
    let out = '';
    let err = '';
    const output: Output = {
      out: (content) => {
        out += content;
      },
      err: (text) => {
        err += text;
      },
    };
    expect(await overlap(['a.csv', 'b.qif'], folder, output)).toBe(0);
    expect(JSON.parse(out)).toEqual({ already: [0], doubtful: [], new: [1, 2] });
    expect(await overlap(['a.csv', 'missing'], folder, output)).toBe(2);
    expect(err).toContain('missing: can’t be opened (ENOENT)');
  });
});
