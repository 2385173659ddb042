import { screen, waitFor } from '@testing-library/react';
import type { WatchedFile, WatchedFolder } from '@zubrell/contract/feeds';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../../testing/renderInBooks.tsx';
import { WatchedSection } from './WatchedSection.tsx';

const folder = '/srv/bank-files/larkmoor';
const off: WatchedFolder = {
  folder,
  isOn: false,
  by: null,
  since: null,
  trouble: null,
  files: [],
};
const on: WatchedFolder = { ...off, isOn: true, by: 'Mo Oakes', since: '2026-04-02T09:00:00Z' };
const file = (fileName: string, more: Partial<WatchedFile> = {}): WatchedFile => ({
  id: fileName,
  fileName,
  at: '2026-04-03T07:30:00Z',
  state: 'taken',
  newCount: 3,
  message: null,
  ...more,
});
const show = (answer: object) =>
  renderInBooks(<WatchedSection />, {
    answers: { 'GET /watched-folder': answer, 'GET /feeds': { feeds: [], banks: [] } },
  });

describe('the watched folder', () => {
  it('is not spoken of where the server watches none', async () => {
    const { sent } = show({ ...off, folder: null });
    await waitFor(() => expect(sent.length).toBeGreaterThan(0));
    expect(screen.queryByText('Watched folder')).toBeNull();
  });

  it('is turned on with one press, and says where it is', async () => {
    const { user, sent } = show(off);
    await user.click(await screen.findByRole('button', { name: 'Watch folder' }));
    expect(screen.getByText(folder)).toBeTruthy();
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'PUT',
        path: '/watched-folder',
        body: { isOn: true },
      }),
    );
  });

  it('says who turned it on, and that nothing came yet', async () => {
    const { user, sent } = show(on);
    await screen.findByText(/Turned on by Mo Oakes on 02 Apr/);
    expect(screen.getByText(/No files received yet/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Stop watching' }));
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'PUT',
        path: '/watched-folder',
        body: { isOn: false },
      }),
    );
  });

  it('lists what came with what came of it', async () => {
    show({
      ...on,
      files: [
        file('now.xml', { state: 'reading', newCount: null }),
        file('three.xml'),
        file('one.xml', { newCount: 1 }),
        file('none.xml', { newCount: 0 }),
        file('other.xml', { state: 'refused', newCount: null, message: 'Of another account.' }),
      ],
    });
    await screen.findByText('now.xml');
    const results = screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => row.lastElementChild?.textContent);
    expect(results).toEqual([
      'Being imported …',
      '3 new lines',
      '1 new line',
      'No new lines',
      'Of another account.',
    ]);
    expect(screen.getByText('Of another account.').className).toBe('trouble');
  });

  it('says why nothing comes in', async () => {
    show({ ...on, trouble: 'The server can’t write to the folder.' });
    expect((await screen.findByText('The server can’t write to the folder.')).className).toBe(
      'trouble',
    );
  });

  it('shows an error in the place of the list', async () => {
    show(() => problem('TOOK_TOO_LONG'));
    await screen.findByText(/took longer than the server allows/);
  });
});
