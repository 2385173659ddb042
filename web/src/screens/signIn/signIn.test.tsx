import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { ResetScreen } from './ResetScreen.tsx';
import { SignInForm } from './SignInForm.tsx';

describe('signing in', () => {
  it('asks for a code once the server does, and sends it with the rest', async () => {
    const { user, sent } = renderInBooks(<SignInForm />, {
      answers: { 'POST /api/session': () => problem('SECOND_FACTOR_NEEDED') },
    });
    await user.type(screen.getByLabelText('E-mail address'), 'mo@larkmoor.example');
    await user.type(screen.getByLabelText('Password'), 'clay and fire');
    expect(screen.queryByLabelText('Code')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    await user.type(await screen.findByLabelText('Code'), '123 456');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    await waitFor(() =>
      expect(sent.at(-1)?.body).toEqual({
        email: 'mo@larkmoor.example',
        password: 'clay and fire',
        code: '123 456',
      }),
    );
    // What was typed stays while the answer is awaited and after it.
    expect(screen.getByLabelText('Code')).toHaveProperty('value', '123 456');
  });
});

describe('a link for a new password', () => {
  const whose = { name: 'Ina Soltveit', email: 'ina@larkmoor.example' };

  it('sets it, and leads to signing in', async () => {
    const { user, sent } = renderInBooks(<ResetScreen />, {
      answers: { 'GET /api/reset-links/': whose },
    });
    await user.type(await screen.findByLabelText('New password'), 'short');
    await user.click(screen.getByRole('button', { name: 'Set password' }));
    await screen.findByText('Ten characters or more are needed.');
    await user.type(screen.getByLabelText('New password'), ' no more');
    await user.click(screen.getByRole('button', { name: 'Set password' }));
    await screen.findByText(/you are signed out everywhere/);
    expect(sent.filter(({ method }) => method === 'POST')).toMatchObject([
      { body: { password: 'short no more' } },
    ]);
    expect(screen.getByRole('link', { name: 'Sign in' })).toBeTruthy();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('says that it is no more', async () => {
    renderInBooks(<ResetScreen />, {
      answers: { 'GET /api/reset-links/': () => problem('RESET_UNKNOWN') },
    });
    await screen.findByText('This link was used or replaced, or has expired. Ask for another.');
    expect(screen.queryByLabelText('New password')).toBeNull();
  });
});
