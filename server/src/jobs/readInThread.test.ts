import { readdirSync, readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, it } from 'vitest';
import { openReaderPool } from './readInThread.ts';

/** The processes that this one has started. */
function children(): number {
  return readdirSync('/proc').filter((pid) => {
    try {
      return (
        Number(/^PPid:\s*(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) ===
        process.pid
      );
    } catch {
      return false;
    }
  }).length;
}

async function* pieces(text: string): AsyncGenerator<Uint8Array> {
  yield new TextEncoder().encode(text);
}

it('threads that read files leave no processes behind', async () => {
  const before = children();
  const pool = openReaderPool();
  const wanted = { currency: 'EUR', statementIndex: 0, choices: {} };
  const file = () => pieces('Date,Amount,Description\n2026-03-01,-12.30,ORRIN BELL\n');
  const read = () => pool.readFile(file(), wanted, async () => undefined);
  const [one, other] = await Promise.all([read(), read()]);
  expect([one.summary.count, other.summary.count]).toEqual([1, 1]);
  await pool.close();
  for (let tries = 0; tries < 50 && children() > before; tries += 1) await pause(100);
  expect(children()).toBeLessThanOrEqual(before);
});
