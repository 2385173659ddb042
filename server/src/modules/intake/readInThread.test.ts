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

it('files whose reading is broken off keep no thread from the next ones', async () => {
  const pool = openReaderPool();
  const wanted = { currency: 'EUR', statementIndex: 0, choices: {} };
  const text = 'Date,Amount,Description\n2026-03-01,-12.30,ORRIN BELL\n';
  async function* broken(): AsyncGenerator<Uint8Array> {
    yield* pieces(text);
    throw new Error('the database is away');
  }
  for (let file = 0; file < 3; file += 1) {
    await expect(pool.readFile(broken(), wanted, async () => undefined)).rejects.toThrow('away');
  }
  const unwritten = pool.readFile(pieces(text), wanted, async () => {
    throw new Error('the rows go nowhere');
  });
  await expect(unwritten).rejects.toThrow('nowhere');
  const { summary } = await pool.readFile(pieces(text), wanted, async () => undefined);
  expect(summary.count).toBe(1);
  await pool.close();
});
