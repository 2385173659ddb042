import { screen, waitFor, within } from '@testing-library/react';
import type { OpenSession } from '@zubrell/contract/session';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { FormatsPanel } from './FormatsPanel.tsx';
import { PasswordPanel } from './PasswordPanel.tsx';
import { SessionsPanel } from './SessionsPanel.tsx';

const CHROMIUM = 'Mozilla/5.0 (X11; Linux x86_64) Chrome/140.0 Safari/537.36';
const IPHONE = 'Mozilla/5.0 (iPhone; CPU iPhone OS 18 like Mac OS X) Version/18.0 Safari/604.1';

const session = (id: string, more: Partial<OpenSession> = {}): OpenSession => ({
  id,
  browser: CHROMIUM,
  address: '10.0.0.1',
  createdAt: '2026-03-01T09:00:00Z',
  lastSeenAt: '2026-04-07T10:00:00Z',
  isThis: false,
  ...more,
});

function open(sessions: readonly OpenSession[]) {
  const panels = (
    <>
      <PasswordPanel />
      <SessionsPanel />
    </>
  );
  return renderInBooks(panels, { answers: { 'GET /api/sessions': { sessions } } });
}

describe('one’s account', () => {
  it('shows where one is signed in, and signs one of them out', async () => {
    const own = session('1', { isThis: true });
    const { user, sent } = open([own, session('2', { browser: IPHONE })]);
    const [, first, second] = await screen.findAllByRole('row');
    expect(first?.textContent).toContain('Chromium on Linux');
    expect(first?.textContent).toContain('here, now');
    expect(within(first as HTMLElement).queryByRole('button')).toBeNull();
    expect(second?.textContent).toContain('Safari on iOS');
    expect(second?.textContent).toContain('07 Apr');
    expect(screen.queryByText('Sign out everywhere else')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Sign out Safari on iOS' }));
    await waitFor(() =>
      expect(sent).toContainEqual({ method: 'POST', path: '/api/sessions/end', body: { id: '2' } }),
    );
  });

  it('signs out everywhere else at once where there are several', async () => {
    const { user, sent } = open([session('1', { isThis: true }), session('2'), session('3')]);
    await user.click(await screen.findByText('Sign out everywhere else'));
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'POST',
        path: '/api/sessions/end',
        body: { id: null },
      }),
    );
  });

  it('changes the password, once it is long enough', async () => {
    const { user, sent } = open([]);
    await user.type(screen.getByLabelText('Current password'), 'clay and fire');
    await user.type(screen.getByLabelText('New password'), 'short');
    await user.click(screen.getByRole('button', { name: 'Change password' }));
    await screen.findByText('Ten characters or more are needed.');
    await user.type(screen.getByLabelText('New password'), ' no more');
    await user.click(screen.getByRole('button', { name: 'Change password' }));
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'POST',
        path: '/api/session/password',
        body: { present: 'clay and fire', fresh: 'short no more' },
      }),
    );
  });

  it('chooses how dates and amounts are written', async () => {
    const user = { id: '1', name: 'Mo Oakes', email: 'mo@larkmoor.example', locale: 'en-GB' };
    const session = { user, isDemo: false, needsFirstUser: false, today: '2026-04-07' };
    const shown = renderInBooks(<FormatsPanel />, { answers: { 'GET /api/session': session } });
    expect(screen.getByText(/Dates look like 12 Mar 2025/).textContent).toContain('1,234.50');
    const choice = await screen.findByLabelText<HTMLSelectElement>('Written as in');
    const names = [...choice.options].map(({ text }) => text);
    expect(names).toContain('Germany');
    expect(names).toContain('Belgium (Dutch)');
    await shown.user.selectOptions(choice, 'United States');
    await waitFor(() =>
      expect(shown.sent).toContainEqual({
        method: 'PUT',
        path: '/api/session/locale',
        body: { locale: 'en-US' },
      }),
    );
  });
});
