import { screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { toast } from '../../app/toast.ts';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine, testStack } from '../../testing/testLines.ts';
import { type DeskRow, laneRow } from './rows.ts';
import { useOpenPairing } from './useOpenPairing.ts';

vi.mock('../../app/toast.ts', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn() }) }));

function Opens({ row }: { readonly row: DeskRow | null }) {
  const open = useOpenPairing();
  return (
    <button type="button" onClick={() => open(row)}>
      pair
    </button>
  );
}

async function opened(row: DeskRow | null, query = '?lane=check', answers: Answers = {}) {
  vi.clearAllMocks();
  const given = renderInBooks(<Opens row={row} />, {
    query,
    answers: { 'GET /stack-lines': { lines: [testLine('only')] }, ...answers },
  });
  await given.user.click(screen.getByRole('button'));
  const { state } = given.router;
  return { ...given, place: () => given.router.state.location, before: state.location };
}
const lineRow = (id: string, change = {}): DeskRow => ({
  kind: 'line',
  id,
  line: testLine(id, change),
});
const decision = { kind: 'posted' } as never;

it.each([
  ['a line', lineRow('a'), '?line=a'],
  [
    'ticked lines',
    { kind: 'ticked', id: 'ticked', lineIds: ['a', 'b'] } as unknown as DeskRow,
    '?line=a&line=b',
  ],
])('opens for %s', async (_what, row, search) => {
  const { place } = await opened(row);
  await waitFor(() => expect(place().pathname).toBe('/books/books/desk/pairing'));
  expect(place().search).toBe(search);
});

it('opens for the one line of a stack, which is asked for', async () => {
  const stack = testStack('TIDEMARK', { count: 1 });
  const { place, sent } = await opened({ kind: 'stack', id: 'TIDEMARK', stack });
  await waitFor(() => expect(place().pathname).toBe('/books/books/desk/pairing'));
  expect(place().search).toBe('?line=only');
  expect(sent.map(({ path }) => path.split('?')[0])).toEqual(['/stack-lines']);
});

it.each([
  ['a line that is decided', lineRow('a', { decision }), undefined],
  ['a stack of several', { kind: 'stack', id: 's', stack: testStack('s') } as DeskRow, undefined],
  ['a whole lane', laneRow([testStack('s')]), undefined],
  [
    'a stack of decided lines',
    { kind: 'stack', id: 's', stack: testStack('s', { count: 1 }) } as DeskRow,
    '?lane=decided',
  ],
])('says what to do instead of opening for %s', async (_what, row, query) => {
  const { place, before } = await opened(row, query);
  await waitFor(() => expect(toast).toHaveBeenCalledOnce());
  expect(place()).toBe(before);
});

it('does nothing where there is no row', async () => {
  const { place, before } = await opened(null);
  expect(place()).toBe(before);
  expect(toast).not.toHaveBeenCalled();
});

it('says why the line of a stack can’t be had, and stays', async () => {
  const stack = testStack('TIDEMARK', { count: 1 });
  const row = { kind: 'stack', id: 'TIDEMARK', stack } as const;
  const answers = { 'GET /stack-lines': () => problem('INTERNAL') };
  const { place, before } = await opened(row, '?lane=check', answers);
  await waitFor(() => expect(toast.error).toHaveBeenCalledOnce());
  expect(toast).not.toHaveBeenCalled();
  expect(place()).toBe(before);
});
