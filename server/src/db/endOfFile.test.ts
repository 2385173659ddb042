import { appendFileSync, mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { endOfFile } from './endOfFile.ts';

const folder = mkdtempSync(join(tmpdir(), 'zubrell-end-'));
const log = join(folder, 'log');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the end of a file', () => {
  it('is all of a short one, and nothing of one that isn’t there', async () => {
    expect(await endOfFile(log)).toBe('');
    writeFileSync(log, 'starting\n');
    expect(await endOfFile(log)).toBe('starting\n');
  });

  it('is read of one that no string could hold', async () => {
    // Takes no room on the disk.
    truncateSync(log, 600 * 1_048_576);
    appendFileSync(log, 'no space left\n');
    const end = await endOfFile(log);
    expect(end).toHaveLength(2_000);
    expect(end.endsWith('no space left\n')).toBe(true);
  });
});
