import type { DeskLines, LaneCounts, LinesDone } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { makeBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const search = (text: string) => `search=${encodeURIComponent(text)}`;
const lanes = (text: string) => scene.client.get<LaneCounts>(`${scene.path}/lanes?${search(text)}`);
const decided = (text: string) =>
  scene.client.get<DeskLines>(`${scene.path}/decided-lines?${search(text)}`);

/** The wordings of the lines that Jump finds. */
async function found(text: string): Promise<string[]> {
  const lines = await scene.client.get<{ lines: { description: string }[] }>(
    `${scene.path}/found-lines?${search(text)}`,
  );
  return lines.lines.map(({ description }) => description).sort();
}

const csv = [
  'Date,Description,Reference,Payee,Amount',
  '2026-01-05,CRD STRAẞE 12,R-4471,Penhallow Clay,-48.50',
  '2026-01-06,DD TIDEMARK,INV 100% A_B,,-12.00',
  '2026-01-07,STALL TAKINGS,,Saltmarsh,12.00',
  '2026-01-08,CRD END,R-9,,-48.00',
].join('\n');

describe('a search', () => {
  it('finds by wording, reference and payee, whatever the case and whatever stands for anything', async () => {
    await scene.books.keep('lines.csv', csv);
    expect(await found('strasse')).toEqual(['CRD STRAẞE 12']);
    expect(await found('r-4471')).toEqual(['CRD STRAẞE 12']);
    expect(await found('PENHALLOW')).toEqual(['CRD STRAẞE 12']);
    expect(await found('0% a_b')).toEqual(['DD TIDEMARK']);
    expect(await found('0%_a')).toEqual([]);
    expect(await found('sal')).toEqual(['STALL TAKINGS']);
    expect(await found('st')).toEqual(['CRD STRAẞE 12', 'STALL TAKINGS']);
  });

  it('never runs over from one of them to the next', async () => {
    await scene.books.keep('lines.csv', csv);
    expect(await found('END\nR-9')).toEqual([]);
    expect(await found('ENDR-9')).toEqual([]);
    expect(await found('END R-9')).toEqual([]);
  });

  it('finds amounts of either sign, and ranges of them', async () => {
    await scene.books.keep('lines.csv', csv);
    expect(await found('12.00')).toEqual(['DD TIDEMARK', 'STALL TAKINGS']);
    expect(await found('48..48.50')).toEqual(['CRD END', 'CRD STRAẞE 12']);
    expect(await found('>48.00')).toEqual(['CRD STRAẞE 12']);
    expect(await found('<20')).toEqual(['DD TIDEMARK', 'STALL TAKINGS']);
  });

  it('finds by the payee decided, and sums what it finds', async () => {
    await scene.books.keep('lines.csv', csv);
    const { id: payeeId } = await scene.client.send<{ id: string }>(
      'POST',
      `${scene.path}/payees`,
      { name: 'Harrow Yard', kind: 'supplier' },
    );
    const part = {
      accountId: await scene.books.accountId('6010'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    const [line] = await scene.lineIds();
    await scene.client.send('POST', `${scene.path}/lines/post`, {
      target: { lineIds: [line] },
      coding: { payeeId, parts: [part], note: null },
      seenStep: 1e6,
    });
    expect(await found('harrow')).toHaveLength(1);
    expect((await decided('harrow')).items.map(({ id }) => id)).toEqual([line]);
    expect(await lanes('harrow')).toMatchObject({ posted: 1, blank: 0, openOutside: 3 });
  });

  it('of books shows no line of others', async () => {
    await scene.books.keep('lines.csv', csv);
    const other = await makeBooks(scene.client);
    const path = `/api/books/${other.id}/found-lines?${search('tidemark')}`;
    expect(await scene.client.get(path)).toEqual({ lines: [] });
    const { database } = scene.harness;
    const asked = await database.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${other.id}, true)`);
      return tx.execute(sql`select lines_saying('%tidemark%', 10)`);
    });
    expect(asked.rows).toEqual([]);
  });

  it('that finds very many finds the same, and says where it stopped counting', async () => {
    const many = Array.from({ length: 5_100 }, (_, at) => ({
      date: `2026-0${1 + (at % 3)}-0${1 + (at % 9)}`,
      amount: at % 2 === 0 ? '-12.00' : '-13.00',
      text: at < 5_010 ? 'COPPER CLAY' : 'AMBER KILN',
    }));
    await scene.books.keep('many.ofx', ofxFile(many, '0.00'));
    expect(await lanes('copper')).toMatchObject({ blank: 5_010, openOutside: 90 });
    expect(await lanes('13.00')).toMatchObject({ blank: 2_550, openOutside: 2_550 });
    expect(await lanes('kiln')).toMatchObject({ blank: 90, openOutside: 5_010 });
    const part = {
      accountId: await scene.books.accountId('6010'),
      taxCodeId: null,
      share: { kind: 'rest' },
      tax: null,
    };
    const done = await scene.client.send<LinesDone>('POST', `${scene.path}/lines/post`, {
      target: { lane: 'blank', scope: { search: 'copper' } },
      coding: { payeeId: null, parts: [part], note: null },
      seenStep: 1e6,
    });
    expect(done.words).toContain('5010 lines');
    expect(await lanes('kiln')).toMatchObject({ posted: 0, isDecidedMore: false });
    expect(await lanes('copper')).toMatchObject({ posted: 2_001, isDecidedMore: true });
    expect(await lanes(' ')).toMatchObject({ posted: 5_010, isDecidedMore: false });
    expect((await decided('copper')).items).toHaveLength(200);
  });
});
