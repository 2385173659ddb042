import type { BooksOverview } from '@zubrell/contract/overview';
import { beforeEach, describe, expect, it } from 'vitest';
import { inBooks } from '../../db/database.ts';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';
import { summarise } from './summarise.ts';

const scene = setScene();
let mo: Bookkeeper;

beforeEach(() => {
  mo = bookkeeper(scene.client, scene.books.id);
});

const listed = async (client = scene.client) =>
  (await client.get<{ books: BooksOverview[] }>('/api/books')).books.find(
    ({ id }) => id === scene.books.id,
  );
const workOut = () =>
  inBooks(scene.harness.database, scene.books.id, (tx) =>
    summarise(tx, scene.books.id, '2026-04-08'),
  );

describe('the list of all books', () => {
  it('shows what is left in each, as it was worked out after the last step', async () => {
    const everyday = scene.books.bankAccountId;
    await mo.opening(everyday, '2026-02-28', 0);
    await mo.addLine(everyday, '2026-03-02', -100, 'CLAY');
    const asked = await mo.addLine(everyday, '2026-03-05', -200, 'ODD');
    await mo.ask([asked.id]);
    await workOut();
    expect((await listed())?.summary).toMatchObject({
      open: 2,
      ready: 0,
      asked: 1,
      askedOf: 'Ida Fennick',
      openMonth: '2026-03',
      lastClosed: null,
      feedCount: 0,
    });
    await mo.settings({ lockDate: '2026-03-31' });
    await workOut();
    const { months, lastClosed } = (await listed())?.summary ?? {};
    expect(lastClosed).toBe('2026-03');
    expect(months?.at(-1)).toEqual({ month: '2026-03', state: 'closed' });
    expect(months).toHaveLength(6);
  });

  it('counts what is unexplained in other currencies by the rate of the day, and never as nil', async () => {
    const everyday = scene.books.bankAccountId;
    const dollars = await mo.bankAccount('Dollar account', 'US7', 'current', 'USD');
    for (const day of ['2026-02-28', '2026-03-31']) await mo.dollar(day, '0.9');
    await mo.opening(dollars.id, '2026-02-28', 0);
    const fee = (text: string) => ({ date: '2026-03-31', amount: '-1.00', text, id: text });
    await scene.books.keep('dollars.ofx', ofxFile([fee('CARD FEE')], '9.00', 'US7', 'USD'), {
      bankAccountId: dollars.id,
    });
    await workOut();
    expect((await listed())?.summary?.unexplained).toBe(900);
    await mo.opening(everyday, '2026-02-28', 0);
    await scene.books.keep('everyday.ofx', ofxFile([fee('STAMPS')], '-9.50'));
    await workOut();
    expect((await listed())?.summary?.unexplained).toBe(50);
    await scene.books.keep('again.ofx', ofxFile([fee('PARKING')], '-11.00'));
    await workOut();
    expect(Math.abs((await listed())?.summary?.unexplained ?? 0)).toBe(900);
  });

  it('has other names and an archive, each as one step, for owners only', async () => {
    await mo.settings({ name: 'Larkmoor Kilns' });
    const { step } = await mo.settings({ isArchived: true });
    expect(await listed()).toMatchObject({ name: 'Larkmoor Kilns', isArchived: true });
    await mo.undo(step);
    expect(await listed()).toMatchObject({ isArchived: false });
    const ines = await joinedAs(scene, 'Ines Varga', 'bookkeeper');
    await expect(bookkeeper(ines, scene.books.id).settings({ isArchived: true })).rejects.toThrow();
  });

  it('tells nothing of what is left to those who only answer questions', async () => {
    await workOut();
    const hanne = await joinedAs(scene, 'Hanne Abelgard', 'client');
    expect((await listed(hanne))?.summary).toBeNull();
  });
});
