import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { laneRow } from './rows.ts';
import { ScopeRow } from './ScopeRow.tsx';

const open = (query = '') =>
  renderInBooks(
    <InDesk>
      <ScopeRow whole={laneRow([])} focusList={vi.fn()} />
    </InDesk>,
    { query },
  );

const field = () => screen.getByLabelText('Search lines') as HTMLInputElement;

const queryOf = (router: ReturnType<typeof open>['router']) =>
  Object.fromEntries(new URLSearchParams(router.state.location.search));

describe('what the Desk looks at', () => {
  it('is an account, a month or a direction, and all again', async () => {
    const { user, router } = open();
    const choose = async (picker: RegExp, choice: string | RegExp) => {
      await user.click(screen.getByRole('button', { name: picker }));
      // The menu comes a moment after its button, and may take that one's place.
      const menu = await waitFor(() => {
        const beside = screen.getByRole('button', { name: picker }).nextElementSibling;
        expect(beside).not.toBeNull();
        return beside as HTMLElement;
      });
      await user.click(within(menu).getByRole('button', { name: choice }));
    };
    await choose(/^Account/, /^Everyday/);
    await choose(/^Money/, 'Paid out');
    expect(queryOf(router)).toEqual({ account: 'everyday', side: 'out' });
    await choose(/^Account/, 'All');
    await choose(/^Money/, 'In and out');
    expect(queryOf(router)).toEqual({});
  });

  it('is grouped where it is open, and parted by decision where it is decided', async () => {
    const { user, router, unmount } = open('?lane=blank');
    await user.click(screen.getByRole('button', { name: 'Payee' }));
    expect(queryOf(router)).toMatchObject({ by: 'payee' });
    expect(screen.queryByLabelText('No receipt')).toBeNull();
    unmount();
    const decided = open('?lane=decided');
    await decided.user.click(screen.getByRole('button', { name: 'Excluded' }));
    await decided.user.click(screen.getByLabelText('No receipt'));
    expect(queryOf(decided.router)).toMatchObject({ decision: 'excluded', attachment: 'none' });
    await decided.user.click(screen.getByRole('button', { name: 'All' }));
    expect(queryOf(decided.router).decision).toBeUndefined();
  });

  it('is searched a moment after the last key', async () => {
    const { user, router } = open();
    await user.type(field(), 'copper');
    expect(router.state.location.search).not.toContain('copper');
    await waitFor(() => expect(router.state.location.search).toContain('q=copper'));
  });

  it('keeps what is typed on while the address catches up', async () => {
    const { user, router } = open();
    await user.type(field(), 'cop');
    await waitFor(() => expect(router.state.location.search).toContain('q=cop'));
    await user.type(field(), 'per');
    expect(field().value).toBe('copper');
    await waitFor(() => expect(router.state.location.search).toContain('q=copper'));
  });

  it('is searched for nothing any more where the address says so', async () => {
    const { router } = open('?q=copper');
    expect(field().value).toBe('copper');
    await router.navigate('/books/books/here');
    await new Promise((done) => setTimeout(done, 400));
    expect(router.state.location.search).not.toContain('copper');
    expect(field().value).toBe('');
  });
});
