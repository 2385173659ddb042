import type { Stack } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { beginCommand } from '../../commands/beginCommand.ts';
import { inBooks, rowsOf } from '../../db/database.ts';
import { NamedRow } from '../../db/rows.ts';
import type { Actor } from '../../services.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';
import { openSession } from '../session/sessions.ts';
import { nextCommand } from '../steps/booksCommand.ts';
import { undoStep } from '../steps/undoStep.ts';
import { habitsOf } from './booksMemory.ts';
import { savedHabits } from './learnedHabits.ts';
import { countDiffering, learnedAnew } from './rebuildHabits.ts';

const scene = setScene();
const { lineIds, post, stacks, undo } = scene;

let count = 0;
function keep(texts: readonly string[], month: string) {
  const lines = texts.map((text, at) => {
    count += 1;
    const day = String(at + 1).padStart(2, '0');
    return { date: `${month}-${day}`, amount: '-12.00', text, id: `H${count}` };
  });
  return scene.books.keep(`${month}.ofx`, ofxFile(lines, '0.00'));
}

/** What is proposed for stacks by now, by their stems. */
async function proposed(): Promise<Map<string, Stack['proposal']>> {
  const found = [...(await stacks('ready')), ...(await stacks('check'))];
  return new Map(found.map(({ key, proposal }) => [key, proposal]));
}

/** Who made the books, with a session of their own. */
async function actor(): Promise<Actor> {
  const { database } = scene.harness.services;
  const { user } = await scene.client.get<{ user: { email: string } }>('/api/session');
  const [found] = await rowsOf(
    database,
    NamedRow,
    sql`select id, name from users where email = ${user.email}`,
  );
  const { id: userId, name } = found ?? { id: '', name: '' };
  const session = await openSession(database, scene.harness.services, userId);
  return { userId, name, session };
}

/** Waits for what is worked out in the background. */
async function soon(isDone: () => Promise<boolean>): Promise<void> {
  for (let look = 0; look < 100 && !(await isDone()); look += 1) {
    await new Promise((done) => setTimeout(done, 50));
  }
  expect(await isDone()).toBe(true);
}

describe('what was posted', () => {
  it('teaches lines of other stems that share its rare word, a moment later', async () => {
    await keep(['LINNET POST COUNTER LYNMO', 'LINNET POST COUNTER GARRAN', 'QUAYSIDE'], '2026-03');
    expect(await stacks()).toHaveLength(3);
    const [lynmo] = (await stacks()).filter(({ key }) => key.includes('LYNMO'));
    const query = new URLSearchParams({
      lane: 'blank',
      grouping: 'lookAlikes',
      key: lynmo?.key ?? '',
      direction: 'out',
    });
    const { lines } = await scene.client.get<{ lines: { id: string }[] }>(
      `${scene.path}/stack-lines?${query}`,
    );
    await post(
      lines.map(({ id }) => id),
      '6010',
    );
    await soon(async () => (await proposed()).has('LINNET POST COUNTER GARRAN'));
    expect((await proposed()).get('LINNET POST COUNTER GARRAN')).toMatchObject({
      source: 'habit',
      coding: { parts: [{ accountId: await scene.books.accountId('6010') }] },
    });
    expect((await proposed()).has('QUAYSIDE')).toBe(false);
    await undo();
    await soon(async () => (await proposed()).size === 0);
  });

  it('is forgotten where its command was rolled back', async () => {
    await keep(['ORRIN BELL', 'ORRIN BELL'], '2026-03');
    const [first = '', second = ''] = await lineIds();
    await scene.client.send('PATCH', scene.path, { demands: { expense: ['note'] } });
    await expect(post([first], '6030')).rejects.toThrow('a note');
    await scene.client.send('PATCH', scene.path, { demands: {} });
    expect((await proposed()).size).toBe(0);
    await post([second], '6030');
    expect((await proposed()).get('ORRIN BELL')?.grounds).toMatchObject([{ times: 1, of: 1 }]);
  });

  it('is as if two undos in one command had never been tried, where the second fails', async () => {
    await keep(['ORRIN BELL', 'ORRIN BELL', 'ORRIN BELL'], '2026-03');
    const [first = '', second = ''] = await lineIds();
    const { step: earlier } = await post([first], '6030');
    const { step: later } = await post([second], '6030');
    const { services } = scene.harness;
    const tried = inBooks(services.database, scene.books.id, async (tx) => {
      const command = await beginCommand(tx, services, scene.books.id, await actor());
      await undoStep(command, { step: later, withLater: false });
      const { ask } = await habitsOf(tx, scene.books.id);
      expect(ask((memory) => memory.size())).toBe(1);
      await undoStep(nextCommand(command), { step: earlier, withLater: false });
      throw new Error('the last moment');
    });
    await expect(tried).rejects.toThrow('the last moment');
    expect((await proposed()).get('ORRIN BELL')?.grounds).toMatchObject([{ times: 2, of: 2 }]);
    await inBooks(services.database, scene.books.id, async (tx) => {
      const { ask } = await habitsOf(tx, scene.books.id);
      const { memory: anew } = await learnedAnew(tx, scene.books.id);
      expect(ask((memory) => countDiffering(memory, anew))).toBe(0);
      expect(anew.size()).toBe(2);
    });
  });

  it('is saved when much of it is new, and read from there by a server that knows nothing', async () => {
    const texts = Array.from({ length: 25 }, () => 'ORRIN BELL');
    for (const month of ['01', '02', '03', '04', '05', '06', '07', '08', '09']) {
      await keep(texts, `2025-${month}`);
    }
    await post(await lineIds(), '6030');
    const { services } = scene.harness;
    const saved = (pieceSize?: number) =>
      inBooks(services.database, scene.books.id, (tx) =>
        savedHabits(tx, scene.books.id, pieceSize),
      );
    await soon(async () => (await saved()).memory.size() === 225);
    // In many pieces it is the same as in one.
    const { memory: whole } = await saved();
    expect(countDiffering((await saved(7)).memory, whole)).toBe(0);
    // What was saved in another way is not read, and learned anew.
    await inBooks(services.database, scene.books.id, (tx) =>
      tx.execute(sql`update learned_habits set version = version - 1, rebuilt = rebuilt + 1`),
    );
    expect((await saved()).step).toBe(0);
    await keep(['ORRIN BELL'], '2026-03');
    expect((await proposed()).get('ORRIN BELL')?.source).toBe('habit');
    // Nor is what was spoiled.
    await inBooks(services.database, scene.books.id, (tx) =>
      tx.execute(sql`update learned_habits set version = version + 1, state = 'spoiled'`),
    );
    expect((await saved()).step).toBe(0);
  });

  it('weighs on the sureness that is shown with a line', async () => {
    await keep(['ORRIN BELL', 'ORRIN BELL', 'ORRIN BELL', 'ORRIN BELL'], '2026-02');
    const ids = await lineIds();
    await post(ids.slice(0, 3), '6030');
    const sheet = await scene.client.get<{ sureness: number }>(`${scene.path}/lines/${ids[3]}`);
    expect(sheet.sureness).toBeGreaterThan(0.8);
    expect(sheet.sureness).toBeLessThan(1);
  });
});
