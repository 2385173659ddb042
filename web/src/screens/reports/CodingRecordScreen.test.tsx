import { screen, within } from '@testing-library/react';
import type { CodingRecord, RecordMonth } from '@zubrell/contract/habits';
import { expect, it, vi } from 'vitest';
import { saveText } from '../../app/saveText.ts';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { CodingRecordScreen } from './CodingRecordScreen.tsx';

vi.mock('../../app/saveText.ts');
vi.mock('../../ui/Chart.tsx', () => ({
  Chart: ({ label }: { readonly label: string }) => <p>{label}</p>,
}));

const month = (change: Partial<RecordMonth>): RecordMonth => ({
  month: '2026-03',
  source: 'habit',
  lines: 100,
  looked: 40,
  kept: 38,
  unseen: 60,
  ...change,
});
const record: CodingRecord = {
  months: [
    month({ month: '2026-02', lines: 50, looked: 10, kept: 9, unseen: 40 }),
    month({}),
    month({ source: 'hand', lines: 7, looked: 7, kept: 0, unseen: 0 }),
  ],
  work: [],
  readyFrom: 0.853,
};
const shown = (answer: object) =>
  renderInBooks(<CodingRecordScreen />, { answers: { 'GET /coding-record': answer } });
const rowsOf = (table: HTMLElement | undefined) =>
  within(table ?? document.body)
    .getAllByRole('row')
    .slice(1)
    .map((row) =>
      within(row)
        .getAllByRole('cell')
        .map(({ textContent }) => textContent),
    );

it('shows what each source proposed, in all and by month, the newest first', async () => {
  shown(record);
  await screen.findByRole('heading', { name: 'Coding record' });
  const [all, byMonth] = screen.getAllByRole('table');
  expect(rowsOf(all)).toEqual([
    ['Habits', '150', '50', '47 (94 %)', '100'],
    // Nothing was proposed, so nothing was kept.
    ['Nothing proposed', '7', '—', '—', '—'],
  ]);
  expect(rowsOf(byMonth).map(([name, source, lines]) => [name, source, lines])).toEqual([
    ['March 2026', 'Nothing proposed', '7'],
    ['March 2026', 'Habits', '100'],
    ['February 2026', 'Habits', '50'],
  ]);
  expect(screen.getByText(/a habit is Ready from 85 % sure on/)).toBeTruthy();
});

it('is saved as a file', async () => {
  const { user } = shown(record);
  await user.click(await screen.findByRole('button', { name: 'Export CSV' }));
  await vi.waitFor(() => expect(vi.mocked(saveText)).toHaveBeenCalled());
  const [csv, name] = vi.mocked(saveText).mock.calls[0] ?? [];
  expect(name).toBe('record of Larkmoor Kiln Works.csv');
  expect(String(csv)).toContain('2026-03');
});

it('says what will be here while nothing is coded, and why it can’t be shown', async () => {
  shown({ months: [], work: [], readyFrom: 0.85 });
  await screen.findByText('Nothing coded yet');
  shown(problem('BOOKS_UNKNOWN'));
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
});
