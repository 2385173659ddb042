import { screen, waitFor } from '@testing-library/react';
import type { Role } from '@zubrell/contract/books';
import type { BackgroundJob } from '@zubrell/contract/jobs';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { BackgroundPanel } from './BackgroundPanel.tsx';

const job = (more: Partial<BackgroundJob>): BackgroundJob => ({
  id: '1',
  task: 'keepBatch',
  state: 'waiting',
  about: 'spring.ofx',
  since: '2026-04-08T12:00:00Z',
  againAt: null,
  attempts: 0,
  ...more,
});

function open(jobs: readonly BackgroundJob[], role: Role = 'owner') {
  const { books, ...rest } = testBooks();
  const setup = { ...rest, books: { ...books, role } };
  return renderInBooks(<BackgroundPanel />, { setup, answers: { 'GET /jobs': { jobs } } });
}

describe('work in the background', () => {
  it('is the owner’s to see', () => {
    const { sent } = open([], 'bookkeeper');
    expect(screen.queryByText('Work in the background')).toBeNull();
    expect(sent).toEqual([]);
  });

  it('says so where there is none', async () => {
    open([]);
    await screen.findByText('Nothing is waiting and nothing has failed.');
  });

  it('that runs can’t be touched; what waits can be given up, what was tried also tried again', async () => {
    const { user, sent } = open([
      job({ id: '1', state: 'running', attempts: 1 }),
      job({ id: '2', task: 'renewProposals', about: null }),
      job({ id: '3', task: 'fetchFeed', about: 'Everyday', state: 'failed', attempts: 3 }),
    ]);
    await screen.findByText('Read file spring.ofx');
    const [, running, waiting, failed] = screen.getAllByRole('row');
    expect(running?.querySelector('button')).toBeNull();
    expect(
      [...(waiting?.querySelectorAll('button') ?? [])].map((each) => each.textContent),
    ).toEqual(['Give up']);
    expect(failed?.textContent).toContain('Fetch feed Everydayfailed');
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    await waitFor(() =>
      expect(sent).toContainEqual({ method: 'POST', path: '/jobs/3/again', body: {} }),
    );
  });

  it('that is tried again says when', async () => {
    open([job({ attempts: 1, againAt: '2026-04-08T12:05:00Z' })]);
    await screen.findByText(/is tried again at 08 Apr \d\d:05/);
  });
});
