// The test browser's own can't be read.
import { Blob } from 'node:buffer';
import { screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks, type Sent } from '../../testing/renderInBooks.tsx';
import { setRoomForRows } from '../../testing/roomForRows.ts';
import { FileReading } from '../../workers/fileReading.ts';
import { Preview } from './Preview.tsx';

setRoomForRows();

/** Reads in this thread, and answers later as a worker does. */
function inThisThread() {
  const own = new FileReading();
  return new Proxy(own, {
    get: (_target, name: keyof FileReading) =>
      name in own
        ? async (...values: never[]) => (own[name] as (...values: never[]) => unknown)(...values)
        : undefined,
  });
}
vi.mock('../../workers/openFileReading.ts', () => ({
  openFileReading: () => ({ reading: inThisThread(), close: () => undefined }),
}));

function open(text: string, answers: Answers = {}, name = 'march.csv') {
  const source = Object.assign(new Blob([text]), { name }) as unknown as File;
  const onLeave = vi.fn();
  const given = renderInBooks(<Preview source={source} onLeave={onLeave} />, {
    answers: {
      'GET /layouts': { layouts: [] },
      'GET /bank-accounts/everyday/line-facts': { lines: [], standing: null },
      'POST /uploads': { uploadId: 'sent' },
      'POST /batches': { batchId: 'here' },
      ...answers,
    },
  });
  return { ...given, onLeave };
}
const button = (name: string | RegExp) => screen.findByRole<HTMLButtonElement>('button', { name });
const hint = () => screen.getByRole('status').textContent;
const wanted = (sent: readonly Sent[]) => sent.find(({ path }) => path === '/batches')?.body;

it('keeps the chosen bank account while the file is read in another way', async () => {
  const { user } = open('Date;Text;Amount\n03.02.2026;CLAY;-1,00\n04.02.2026;STAMPS;-2,00\n');
  const goesTo = () => screen.getByLabelText<HTMLSelectElement>('Bank account');
  await waitFor(goesTo);
  expect(goesTo().value).toBe('');
  await user.selectOptions(goesTo(), 'everyday');
  expect(screen.queryByText('Choose the bank account this file belongs to.')).toBeNull();
  await user.selectOptions(screen.getByLabelText('Dates'), 'Month first');
  await waitFor(() =>
    expect(screen.getByLabelText<HTMLSelectElement>('Dates').value).toBe('monthFirst'),
  );
  expect(goesTo().value).toBe('everyday');
});

it('goes back to how a file could be read, where another way can’t', async () => {
  const { user } = open('Date;Text;Amount\n03.02.2026;CLAY, RED;-1,00\n');
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  await user.selectOptions(screen.getByLabelText('Separator'), 'Comma');
  await user.click(await screen.findByText('Read as before'));
  expect((await screen.findByLabelText<HTMLSelectElement>('Separator')).value).toBe(';');
  expect(screen.getByLabelText<HTMLSelectElement>('Bank account').value).toBe('everyday');
});

const TWO = 'Date;Text;Amount\n03.02.2026;CLAY;-1,00\n14.02.2026;STAMPS;-2,00\n';

it('is kept with what was chosen, and goes on to the lines that came', async () => {
  const kept = { id: 'here', status: 'kept', newCount: 2, step: 18 };
  const { user, sent, router } = open(TWO, { 'GET /batches/here': kept });
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  expect(await screen.findByText('You can undo the whole import afterwards.')).toBeTruthy();
  await user.click(await button('Import 2 lines'));
  await waitFor(() => expect(router.state.location.pathname).toBe('/books/books/desk'));
  expect(router.state.location.search).toBe('?account=everyday&lane=blank');
  expect(wanted(sent)).toMatchObject({
    uploadId: 'sent',
    bankAccountId: 'everyday',
    acceptRefused: false,
    confirmDates: false,
  });
});

it('brings nothing where all of it was imported before, and is left', async () => {
  const kept = { id: 'here', status: 'kept', newCount: 0, step: null };
  const { user, onLeave } = open(TWO, { 'GET /batches/here': kept });
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  await user.click(await button('Import 2 lines'));
  await waitFor(() => expect(onLeave).toHaveBeenCalledOnce());
});

it('says why it can’t be kept, and stays', async () => {
  const { user, onLeave } = open(TWO, { 'POST /batches': () => problem('BANK_ACCOUNT_UNKNOWN') });
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  await user.click(await button('Import 2 lines'));
  await waitFor(() => expect(screen.getByRole('status').className).toBe('trouble'));
  expect(hint()).not.toBe('');
  expect(onLeave).not.toHaveBeenCalled();
});

it('asks before records are left out that can’t be read', async () => {
  const { user, sent } = open(`${TWO}31.02.2026;GLAZE;-3,00\n`, {
    'GET /batches/here': { id: 'here', status: 'kept', newCount: 2, step: 18 },
  });
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  const keep = await button('Import 2 lines');
  expect(hint()).toBe('Some records can’t be read. Look at the list on the left.');
  expect(keep.disabled).toBe(true);
  await user.click(screen.getByRole('checkbox', { name: /without/ }));
  expect(keep.disabled).toBe(false);
  await user.click(keep);
  await waitFor(() => expect(wanted(sent)).toMatchObject({ acceptRefused: true }));
});

it('asks before lines are kept that are dated after today', async () => {
  const { user } = open(TWO.replace('14.02.2026', '14.02.2036'));
  await user.selectOptions(await screen.findByLabelText('Bank account'), 'everyday');
  const keep = await button('Import 2 lines');
  await waitFor(() => expect(hint()).toMatch(/dated after today/));
  expect(keep.disabled).toBe(true);
  await user.click(screen.getByRole('checkbox', { name: /date/ }));
  expect(keep.disabled).toBe(false);
});
