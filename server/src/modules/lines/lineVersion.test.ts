import type { LinesDone } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { inBooks, rowsOf } from '../../db/database.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
let lineId: string;

beforeEach(async () => {
  const line = { date: '2026-03-03', amount: '-48.50', text: 'TIDEMARK FRT', id: '1' };
  await scene.books.keep('march.ofx', ofxFile([line], '951.50'));
  [lineId = ''] = await scene.lineIds('blank');
});

const PlaceRow = z.object({ place: z.string() });

/** Where the row of the line stands in its table: elsewhere as soon as it is written again. */
const rowPlace = () =>
  inBooks(scene.harness.services.database, scene.books.id, async (tx) => {
    const [row] = await rowsOf(
      tx,
      PlaceRow,
      sql`select ctid::text as place from lines where id = ${lineId}`,
    );
    return row?.place;
  });

const exclude = (seenStep: number) =>
  scene.client.send<LinesDone>('POST', `${scene.path}/lines/exclude`, {
    target: { lineIds: [lineId] },
    reason: 'bankError',
    as: 'excluded',
    seenStep,
  });

describe('the version of a line', () => {
  it('stands beside it: deciding it and taking that back leave its row as it was', async () => {
    const before = await rowPlace();
    await scene.post([lineId], '6010');
    await scene.undo();
    expect(await rowPlace()).toBe(before);
  });

  it('leaves it out of a command that has not seen the newest, and names who did that', async () => {
    const seen = await scene.books.lastStep();
    await scene.post([lineId], '6010');
    const [posted] = (await exclude(seen)).leftOut;
    expect(posted).toMatchObject({ code: 'LINE_CHANGED' });
    expect(posted?.message).toContain('Mo Oakes');
    await scene.undo();
    const [undone] = (await exclude(seen + 1)).leftOut;
    expect(undone?.message).toContain('Undid: Posted 1 line to 6010 Freight out');
    const [alone] = (await exclude(seen + 2)).leftOut;
    expect(alone).toMatchObject({ code: 'EXCLUDE_NOT_ZERO' });
  });
});
