import type { RecordMonth } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { shortMonth } from './chartAxis.ts';
import { bySource, doneByMonth, doneChart, keptChart, recordCsv } from './recordShown.ts';

const month = (
  name: string,
  source: RecordMonth['source'],
  [lines, looked, kept, unseen]: readonly [number, number, number, number],
): RecordMonth => ({ month: name, source, lines, looked, kept, unseen });

const record = {
  months: [
    month('2026-02', 'hand', [10, 10, 0, 0]),
    month('2026-01', 'hand', [40, 40, 0, 0]),
    month('2026-02', 'habit', [30, 12, 9, 18]),
    month('2026-02', 'rule', [5, 5, 5, 0]),
    month('2026-02', 'file', [2, 2, 1, 0]),
    month('2026-02', 'pair', [4, 2, 1, 2]),
  ],
};
const colors = {
  habit: 'a',
  rule: 'b',
  pair: 'g',
  transfer: 'h',
  other: 'c',
  hand: 'd',
  ink: 'e',
  hairline: 'f',
};
const none = { habit: 0, rule: 0, pair: 0, transfer: 0, other: 0, hand: 0 };

describe('the record', () => {
  it('counts what was changed as done by hand, and loses no line', () => {
    const done = doneByMonth(record);
    expect(done).toEqual([
      { month: '2026-01', ...none, hand: 40 },
      { month: '2026-02', ...none, habit: 27, rule: 5, pair: 3, other: 1, hand: 15 },
    ]);
    const all = done.reduce(
      (sum, { habit, rule, pair, transfer, other, hand }) =>
        sum + habit + rule + pair + transfer + other + hand,
      0,
    );
    expect(all).toBe(record.months.reduce((sum, { lines }) => sum + lines, 0));
  });

  it('is summed up by source', () => {
    expect(bySource(record)[0]).toMatchObject({ source: 'hand', lines: 50 });
    expect(bySource(record)[1]).toEqual({
      source: 'habit',
      lines: 30,
      looked: 12,
      kept: 9,
      unseen: 18,
    });
  });

  it('is drawn a bar a month and a line of kept rates, with gaps where nothing was looked at', () => {
    const bars = doneChart(doneByMonth(record), colors) as { series: { data: number[] }[] };
    expect(bars.series.map(({ data }) => data)).toEqual([
      [0, 27],
      [0, 5],
      [0, 3],
      [0, 0],
      [0, 1],
      [40, 15],
    ]);
    const lines = keptChart(record, colors) as { series: { data: (number | null)[] }[] };
    expect(lines.series.map(({ data }) => data)).toEqual([
      [null, 75],
      [null, 100],
    ]);
  });

  it('is exported as a table', () => {
    expect(recordCsv(record).split('\r\n').slice(0, 2)).toEqual([
      'Month,Proposed by,Lines,Seen before posting,Kept,Unseen',
      '2026-02,hand,10,10,0,0',
    ]);
    expect(shortMonth('2026-01')).toBe('Jan 2026');
    expect(shortMonth('2026-03')).toBe('Mar');
  });
});
