// The test browser's own can't be read.
import { Blob } from 'node:buffer';
import { screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
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

function open(text: string) {
  const source = Object.assign(new Blob([text]), { name: 'march.csv' }) as unknown as File;
  return renderInBooks(<Preview source={source} onLeave={() => undefined} />, {
    answers: {
      'GET /layouts': { layouts: [] },
      'GET /bank-accounts/everyday/line-facts': { lines: [], standing: null },
    },
  });
}

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
