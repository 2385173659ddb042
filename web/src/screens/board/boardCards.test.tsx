import { screen, waitFor, within } from '@testing-library/react';
import type { Due, SinceVisit as Since } from '@zubrell/contract/board';
import type { MonthWork } from '@zubrell/contract/habits';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { SinceVisit } from './SinceVisit.tsx';
import { WhatIsDue } from './WhatIsDue.tsx';
import { WorkByMonth } from './WorkByMonth.tsx';
import { workChart } from './workChart.ts';

const chart = { setOption: vi.fn(), resize: vi.fn(), dispose: vi.fn() };
vi.mock('../../ui/drawChart.ts', () => ({ openChart: () => chart }));
beforeEach(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      disconnect() {}
    },
  );
});

describe('what others did', () => {
  const since = (change: Partial<Since> = {}): Since => ({
    at: null,
    came: { lines: 0, batches: 0 },
    people: [],
    answers: 0,
    ...change,
  });
  const open = (change: Partial<Since>) =>
    renderInBooks(<SinceVisit />, { answers: { 'POST /visit': since(change) } });

  it('is told since the last visit, with whoever did most first', async () => {
    const person = {
      userId: 'tam',
      name: 'Tam Orre',
      steps: 14,
      lines: 120,
      last: 'Swept 82 lines',
    };
    open({
      at: '2026-03-05T10:00:00Z',
      came: { lines: 48, batches: 2 },
      people: [person, { ...person, userId: 'ines', name: 'Ines Varga', steps: 1, lines: 0 }],
      answers: 1,
    });
    const region = await screen.findByRole('region', { name: /^Since your last visit, 05 Mar/ });
    expect(
      within(region)
        .getAllByRole('listitem')
        .map((row) => row.textContent),
    ).toEqual([
      '48 lines imported, from 2 files or feeds',
      '1 answer received',
      'Tam Orre: 14 steps, 120 lines decided. The last: Swept 82 lines',
      'Ines Varga: 1 step: Swept 82 lines',
    ]);
  });

  it('is of the last days at a first visit, and may be nothing', async () => {
    open({});
    await screen.findByText('Nobody else has changed anything.');
    screen.getByRole('region', { name: 'In the last seven days' });
  });
});

describe('what is due', () => {
  const due = (change: Partial<Due> = {}): Due => ({
    billsOverdue: { count: 0, total: 0 },
    billsSoon: { count: 0, total: 0 },
    invoicesOverdue: { count: 0, total: 0 },
    month: null,
    tax: null,
    ...change,
  });

  it('leads to where it is done', () => {
    renderInBooks(
      <WhatIsDue
        due={due({
          billsOverdue: { count: 1, total: 12_000 },
          billsSoon: { count: 3, total: 45_050 },
          tax: { from: '2026-01-01', to: '2026-03-31' },
          month: '2026-02',
        })}
      />,
    );
    expect(screen.getAllByRole('listitem').map((row) => row.textContent)).toEqual([
      '1 bill is overdue120.00',
      '3 bills are due within 14 days450.50',
      'The tax return can be prepared01 Jan to 31 Mar',
      'February 2026 can be closed',
    ]);
    expect(screen.getByText('February 2026 can be closed').getAttribute('href')).toBe(
      '/books/books/close/2026-02',
    );
  });

  it('is nothing where nothing is', () => {
    renderInBooks(<WhatIsDue due={due()} />);
    screen.getByText('Nothing is due in the next 14 days.');
  });
});

describe('how much was coded without a touch', () => {
  const work: MonthWork[] = [
    { month: '2026-02', lines: 90, untouched: 45, presses: null },
    { month: '2026-03', lines: 110, untouched: 92, presses: 0.237 },
  ];

  it('is said of the newest month, and of every month for those who can’t see the chart', async () => {
    renderInBooks(<WorkByMonth />, {
      answers: { 'GET /coding-record': { months: [], work, readyFrom: 0.9 } },
    });
    await screen.findByText(
      /^March 2026: 83 % of 110 lines without a touch, 0.24 presses per line\./,
    );
    expect(screen.getByRole('img').getAttribute('aria-label')).toContain(
      'February 2026: 50 % of 90 lines without a touch.',
    );
    screen.getByText('Presses per line');
    await waitFor(() => expect(chart.setOption).toHaveBeenCalled());
  });

  it('is drawn as parts of the lines that come to all of them', () => {
    const colors = { habit: 'a', hand: 'b', ink: 'c', hairline: 'd' } as never;
    const { series } = workChart(work, colors) as { series: { data: (number | null)[] }[] };
    const [untouched, looked, presses] = series.map(({ data }) => data);
    expect(untouched).toEqual([45, 92]);
    expect(looked).toEqual([45, 18]);
    expect(presses).toEqual([null, 0.24]);
  });
});
