import { screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { makePasskey, passkeyTrouble, signWithPasskey } from '../../app/passkeys.ts';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { PasskeySignIn } from '../signIn/PasskeySignIn.tsx';
import { PasskeysPanel } from './PasskeysPanel.tsx';

vi.mock('../../app/passkeys.ts', () => ({
  passkeyTrouble: vi.fn(),
  makePasskey: vi.fn(),
  signWithPasskey: vi.fn(),
}));
const trouble = vi.mocked(passkeyTrouble);
const key = {
  id: 'k1',
  name: 'Studio laptop',
  createdAt: '2026-03-01T09:00:00Z',
  lastUsedAt: null,
};

beforeEach(() => {
  trouble.mockReturnValue(null);
});

describe('passkeys', () => {
  it('are listed, and removed one by one', async () => {
    const { user, sent } = renderInBooks(<PasskeysPanel />, {
      answers: { 'GET /api/session/passkeys': { passkeys: [key] } },
    });
    await user.click(await screen.findByRole('button', { name: 'Remove Studio laptop' }));
    await waitFor(() =>
      expect(sent).toContainEqual({
        method: 'POST',
        path: '/api/session/passkeys/remove',
        body: { id: 'k1' },
      }),
    );
  });

  it('are made by the device, under a name', async () => {
    const made = { id: 'k2' };
    vi.mocked(makePasskey).mockResolvedValue(made as never);
    const { user, sent } = renderInBooks(<PasskeysPanel />, {
      answers: {
        'GET /api/session/passkeys': { passkeys: [] },
        'POST /api/session/passkeys/begin': { challenge: 'abc' },
      },
    });
    const name = await screen.findByLabelText('Name of this device');
    await user.clear(name);
    const button = screen.getByRole('button', { name: 'Create passkey' });
    expect(button).toHaveProperty('disabled', true);
    await user.type(name, ' Phone ');
    await user.click(button);
    await waitFor(() => expect(makePasskey).toHaveBeenCalledWith({ challenge: 'abc' }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/api/session/passkeys')).toBeTruthy(),
    );
    expect(
      sent.find(({ method, path }) => method === 'POST' && path.endsWith('/passkeys'))?.body,
    ).toEqual({
      name: 'Phone',
      made,
    });
  });

  it('are not offered where they can’t be used, and it says why', async () => {
    trouble.mockReturnValue('address');
    renderInBooks(<PasskeysPanel />, {
      answers: { 'GET /api/session/passkeys': { passkeys: [] } },
    });
    await screen.findByText(/open this page under the server’s name/);
    expect(screen.queryByRole('button', { name: 'Create passkey' })).toBeNull();
  });
});

describe('signing in with a passkey', () => {
  const answers = { 'POST /api/session/passkey/begin': { challenge: 'abc' } };

  it('sends what the device signed, and says where it is not accepted', async () => {
    vi.mocked(signWithPasskey).mockResolvedValue({ id: 'k1' } as never);
    const { user, sent } = renderInBooks(<PasskeySignIn />, {
      answers: { ...answers, 'POST /api/session/passkey': () => problem('PASSKEY_WRONG') },
    });
    await user.click(screen.getByRole('button', { name: 'Sign in with a passkey' }));
    await screen.findByText(/The passkey was not accepted/);
    expect(sent.at(-1)?.body).toEqual({ id: 'k1' });
  });

  it('says that the device signed nothing', async () => {
    vi.mocked(signWithPasskey).mockRejectedValue(new Error('called off'));
    const { user, sent } = renderInBooks(<PasskeySignIn />, { answers });
    await user.click(screen.getByRole('button', { name: 'Sign in with a passkey' }));
    await screen.findByText(/Signing in was cancelled/);
    expect(sent).toHaveLength(1);
  });

  it('is not offered where it can’t be done', () => {
    trouble.mockReturnValue('browser');
    renderInBooks(<PasskeySignIn />);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
