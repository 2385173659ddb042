import { sql } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { z } from 'zod';
import { inBooks, rowsOf } from '../../db/database.ts';
import { ofxFile } from '../../testing/files.ts';
import { setScene } from '../../testing/scene.ts';
import { openLinesQuery } from './findPairs.ts';

const scene = setScene();
const PlanRow = z.object({ 'QUERY PLAN': z.string() });

it('works out whose the look-alikes are once, also where the database expects a single line', async () => {
  const lines = ['1', '2'].map((id) => ({
    date: '2026-03-05',
    amount: '-12.00',
    text: 'PITCH',
    id,
  }));
  await scene.books.keep('march.ofx', ofxFile(lines, '0.00'));
  const { database } = scene.harness;
  const plan = await inBooks(database, scene.books.id, (tx) =>
    rowsOf(
      tx,
      PlanRow,
      sql`explain ${openLinesQuery(scene.books.id, sql`l.date between '2027-01-01' and '2027-01-02'`)}`,
    ),
  );
  const steps = plan.map((row) => row['QUERY PLAN'].trim());
  expect(steps).toContain('CTE usual');
  expect(steps.some((step) => step.includes('CTE Scan on usual'))).toBe(true);
});
