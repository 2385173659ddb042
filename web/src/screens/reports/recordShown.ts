import type { CodingRecord } from '@zubrell/contract/habits';
import { csvText } from '@zubrell/core/text/csvText';
import { t } from '@zubrell/core/words/t';
import type { EChartsCoreOption } from 'echarts/core';
import { chartAxis, shortMonth } from './chartAxis.ts';

/** How lines were coded: by what proposed them, where that was left, else by hand. */
export const doneBy = ['habit', 'rule', 'pair', 'transfer', 'other', 'hand'] as const;
export type DoneBy = (typeof doneBy)[number];

/** As they are named in legends. */
export const doneNames: Readonly<Record<DoneBy, string>> = {
  habit: t`Habit`,
  rule: t`Rule`,
  pair: t`Pair`,
  transfer: t`Transfer`,
  other: t`File or general knowledge`,
  hand: t`By hand`,
};

/** The lines of one month by how they got done. */
export interface MonthDone extends Readonly<Record<DoneBy, number>> {
  /** `2026-03` */
  readonly month: string;
}

const NONE: Readonly<Record<DoneBy, number>> = {
  habit: 0,
  rule: 0,
  pair: 0,
  transfer: 0,
  other: 0,
  hand: 0,
};

/** Month by month how lines got done, the oldest first. What was changed by hand counts as done by hand. */
export function doneByMonth({ months }: Pick<CodingRecord, 'months'>): readonly MonthDone[] {
  const found = new Map<string, Record<DoneBy, number> & { month: string }>();
  for (const { month, source, lines, looked, kept } of months) {
    const own = found.get(month) ?? { month, ...NONE };
    const changed = source === 'hand' ? lines : looked - kept;
    own.hand += changed;
    if (source !== 'hand') {
      const by = doneBy.find((each) => each === source) ?? 'other';
      own[by] += lines - changed;
    }
    found.set(month, own);
  }
  return [...found.values()].sort((a, b) => (a.month < b.month ? -1 : 1));
}

/** The record of one source over all months. */
export interface SourceRecord {
  readonly source: CodingRecord['months'][number]['source'];
  readonly lines: number;
  readonly looked: number;
  readonly kept: number;
  readonly unseen: number;
}

/** What each source proposed in all, and how much of what was looked at was kept. */
export function bySource({ months }: Pick<CodingRecord, 'months'>): readonly SourceRecord[] {
  const found = new Map<string, SourceRecord>();
  for (const { source, lines, looked, kept, unseen } of months) {
    const own = found.get(source) ?? { source, lines: 0, looked: 0, kept: 0, unseen: 0 };
    found.set(source, {
      source,
      lines: own.lines + lines,
      looked: own.looked + looked,
      kept: own.kept + kept,
      unseen: own.unseen + unseen,
    });
  }
  return [...found.values()].sort((a, b) => b.lines - a.lines);
}

/** The colours of a chart, as the theme has them. */
export interface ChartColors extends Readonly<Record<DoneBy, string>> {
  readonly ink: string;
  readonly hairline: string;
}

/** A chart of how lines got done: a bar a month, a part for each way. */
export function doneChart(done: readonly MonthDone[], colors: ChartColors): EChartsCoreOption {
  return {
    animation: false,
    grid: { left: 4, right: 4, top: 8, bottom: 22, containLabel: false },
    tooltip: { trigger: 'axis', axisPointer: { type: 'shadow' } },
    xAxis: {
      type: 'category',
      data: done.map(({ month }) => shortMonth(month)),
      ...chartAxis(colors),
    },
    yAxis: { type: 'value', show: false },
    series: doneBy.map((by) => ({
      name: doneNames[by],
      type: 'bar',
      stack: 'lines',
      barCategoryGap: '18%',
      itemStyle: { color: colors[by] },
      data: done.map((month) => month[by]),
    })),
  };
}

/** A chart of how much of what was looked at was kept, a line for habits and one for rules. */
export function keptChart(
  { months }: Pick<CodingRecord, 'months'>,
  colors: ChartColors,
): EChartsCoreOption {
  const all = [...new Set(months.map(({ month }) => month))].sort();
  const rates = (source: 'habit' | 'rule') =>
    all.map((month) => {
      const own = months.find((each) => each.month === month && each.source === source);
      return own && own.looked > 0 ? Math.round((1000 * own.kept) / own.looked) / 10 : null;
    });
  return {
    animation: false,
    grid: { left: 40, right: 8, top: 12, bottom: 22 },
    tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => `${value ?? '—'} %` },
    xAxis: { type: 'category', data: all.map(shortMonth), ...chartAxis(colors) },
    yAxis: {
      type: 'value',
      min: 0,
      max: 100,
      axisLabel: { color: colors.ink, formatter: '{value} %' },
      splitLine: { lineStyle: { color: colors.hairline } },
    },
    series: (['habit', 'rule'] as const).map((source) => ({
      name: doneNames[source],
      type: 'line',
      connectNulls: true,
      symbolSize: 7,
      symbol: source === 'habit' ? 'circle' : 'rect',
      lineStyle: { color: colors[source], type: source === 'habit' ? 'solid' : 'dashed' },
      itemStyle: { color: colors[source] },
      data: rates(source),
    })),
  };
}

/** The record as a CSV table (RFC 4180). */
export function recordCsv({ months }: Pick<CodingRecord, 'months'>): string {
  const rows = months.map(({ month, source, lines, looked, kept, unseen }) => [
    month,
    source,
    lines,
    looked,
    kept,
    unseen,
  ]);
  return csvText([
    [t`Month`, t`Proposed by`, t`Lines`, t`Seen before posting`, t`Kept`, t`Unseen`],
    ...rows,
  ]);
}
