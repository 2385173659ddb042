import { foldCase } from '@zubrell/core/text/foldCase';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { startHarness } from '../testing/harness.ts';
import type { Harness } from '../testing/testServer.ts';
import { rowsOf } from './database.ts';
import { hasText, isSameText } from './textSearch.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.stop());

/** What the database makes of texts. */
function ask<Row extends z.ZodType>(row: Row, query: ReturnType<typeof sql>) {
  return harness.database.transaction((tx) => rowsOf(tx, row, query));
}

describe('text in the database', () => {
  it('is folded as the core folds it', async () => {
    // Letters of the scripts that banks write in; unassigned characters differ by version of Unicode.
    const letter = fc.oneof(
      fc.integer({ min: 0x20, max: 0x24f }),
      fc.integer({ min: 0x370, max: 0x3e1 }),
      fc.integer({ min: 0x400, max: 0x4ff }),
      fc.integer({ min: 0x1e00, max: 0x1eff }),
      fc.integer({ min: 0xff21, max: 0xff5a }),
      fc.constantFrom(0x1e9e, 0xdf, 0x130, 0x131, 0x3c2, 0xfb01, 0xfb06),
    );
    const texts = fc
      .array(letter, { maxLength: 12 })
      .map((codes) => codes.map((code) => String.fromCodePoint(code)).join(''))
      .filter((text) => !/\p{Cc}|\p{Cn}/u.test(text));
    const all = fc.sample(texts, { numRuns: 2_000, seed: 20_261_127 });
    const rows = await ask(
      z.object({ text: z.string(), folded: z.string() }),
      sql`select text, folded(text) as folded from unnest(${sql.param(all)}::text[]) text`,
    );
    const other = rows.filter(({ text, folded }) => folded !== foldCase(text));
    expect(other.slice(0, 5)).toEqual([]);
    expect(rows).toHaveLength(2_000);
  });

  it.each([
    ['CRD STRAẞE 12', 'strasse'],
    ['CRD Strasse 12', 'STRAẞE'],
    ['ΟΔΟΣ', 'οδος'],
    ['İSTANBUL', 'istanbul'],
    ['ＡＢ ﬁn', 'ab fin'],
    ['100% CLAY', '0% c'],
    ['PLAIN', 'lai'],
  ])('“%s” has “%s”', async (text, typed) => {
    const [row] = await ask(
      z.object({ has: z.boolean() }),
      sql`select ${hasText(sql`${text}::text`, typed)} as has`,
    );
    expect(row?.has).toBe(true);
  });

  it('has nothing in it that is not there, and nothing at all where it is missing', async () => {
    const [row] = await ask(
      z.record(z.string(), z.boolean().nullable()),
      sql`select ${hasText(sql`'100 CLAY'`, '0% c')} as wild, ${hasText(sql`null::text`, 'a')} as none,
            ${isSameText(sql`'Straße'`, sql`'STRASSE'`)} as same,
            ${isSameText(sql`'Strase'`, sql`'STRASSE'`)} as other`,
    );
    expect(row).toEqual({ wild: false, none: null, same: true, other: false });
  });
});
