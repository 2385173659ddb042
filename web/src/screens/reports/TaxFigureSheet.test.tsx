import { screen, within } from '@testing-library/react';
import type { TaxLeg } from '@zubrell/contract/tax';
import { expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { TaxFigureSheet } from './TaxFigureSheet.tsx';

const LEGS = 'GET /tax-returns/codes/t20/legs';

const leg = (legId: string, more: Partial<TaxLeg> = {}): TaxLeg => ({
  legId,
  entryId: `entry-${legId}`,
  accountId: '6010',
  date: '2026-02-03',
  payee: 'Tidemark Freight',
  text: `TIDEMARK FRT ${legId}`,
  net: 4_000,
  tax: 0,
  isLate: false,
  isTakenBack: false,
  ...more,
});

function open(answer: Answers[string], { key = 't20 output', returnId = '' } = {}) {
  const onClose = vi.fn();
  const view = renderInBooks(
    <TaxFigureSheet
      row={{ key, label: 'Standard 20 %', kind: 'row', amounts: [800] } as never}
      period={{ from: '2026-01-01', to: '2026-03-31' }}
      returnId={returnId === '' ? undefined : returnId}
      onClose={onClose}
    />,
    { answers: { [LEGS]: answer } },
  );
  return { ...view, onClose };
}

const queryOf = (path = '') => Object.fromEntries(new URLSearchParams(path.split('?')[1]));

it('a figure of a tax return is made of entries, late ones and those taken back marked', async () => {
  const { user, sent, onClose } = open({
    items: [
      leg('one'),
      leg('two', { tax: 800, isLate: true }),
      leg('three', { payee: null, isTakenBack: true, isLate: true }),
    ],
    next: null,
  });
  expect(await screen.findByText('Standard 20 %, sales')).toBeDefined();
  const [one, two, three] = (await screen.findAllByRole('listitem')).map((item) => within(item));
  expect(one?.getByRole('link').getAttribute('href')).toBe(
    '/books/books/ledger/6010?entry=entry-one',
  );
  expect(one?.getByText('40.00')).toBeDefined();
  expect(one?.queryByText('Late')).toBeNull();
  expect(two?.getByText('tax 8.00')).toBeDefined();
  expect(two?.getByText('Late')).toBeDefined();
  expect(three?.getByRole('link', { name: 'Entry' })).toBeDefined();
  expect(three?.getByText('Undone after it was reported')).toBeDefined();
  expect(queryOf(sent[0]?.path)).toEqual({ from: '2026-01-01', to: '2026-03-31', side: 'output' });
  await user.click(screen.getByRole('button', { name: 'Close details' }));
  expect(onClose).toHaveBeenCalledOnce();
});

it('a figure of a return that was filed has its further entries on further pages', async () => {
  const { user, sent } = open(
    (query: URLSearchParams) =>
      query.has('cursor')
        ? { items: [leg('last')], next: null }
        : { items: [leg('first')], next: 'more' },
    { key: 't20 input', returnId: 'march' },
  );
  expect(await screen.findByText('Standard 20 %, purchases')).toBeDefined();
  await user.click(await screen.findByRole('button', { name: 'Show more entries' }));
  expect(await screen.findByText('TIDEMARK FRT last')).toBeDefined();
  expect(screen.queryByRole('button', { name: 'Show more entries' })).toBeNull();
  expect(queryOf(sent.at(-1)?.path)).toMatchObject({ cursor: 'more', returnId: 'march' });
});

it('a figure whose entries can’t be had says why', async () => {
  open(() => problem('TAX_CODE_UNKNOWN'));
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
});
