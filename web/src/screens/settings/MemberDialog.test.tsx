import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { MemberDialog } from './MemberDialog.tsx';

const ina = {
  userId: 'ina',
  name: 'Ina Soltveit',
  email: 'ina@larkmoor.example',
  role: 'bookkeeper',
  seesOtherBooks: false,
} as const;

function open(answers: Record<string, object>) {
  const onClose = vi.fn();
  return {
    onClose,
    ...renderInBooks(<MemberDialog member={ina} onClose={onClose} />, { answers }),
  };
}

describe('somebody’s account', () => {
  it('gets a link for a new password, with or without the second factor', async () => {
    const { user, sent } = open({ 'POST /people/ina/reset-link': { secret: 'abcdef' } });
    await user.click(screen.getByLabelText(/turn their second factor off/));
    await user.click(screen.getByRole('button', { name: 'Create link for a new password' }));
    const link = await screen.findByLabelText('Link for Ina Soltveit');
    expect((link as HTMLInputElement).value).toMatch(/\/reset\/abcdef$/);
    expect(sent.at(-1)?.body).toEqual({ endsSecondFactor: true });
  });

  it('is erased only once the name was typed', async () => {
    const { user, sent, onClose } = open({});
    const button = screen.getByRole('button', { name: 'Erase account' });
    await user.type(screen.getByLabelText(/Type the name/), 'Ina Solt');
    expect(button).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText(/Type the name/), 'veit');
    await user.click(button);
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent).toContainEqual({ method: 'POST', path: '/people/ina/erase', body: {} });
  });

  it('says why it can’t be done', async () => {
    const refusal = { name: 'Ina Soltveit' };
    const { user, onClose } = open({
      'POST /people/ina/reset-link': () => problem('MEMBER_ELSEWHERE', refusal),
      'POST /people/ina/erase': () => problem('MEMBER_ELSEWHERE', refusal),
    });
    await user.click(screen.getByRole('button', { name: 'Create link for a new password' }));
    await screen.findByText(/also works with books that you don’t own/);
    await user.type(screen.getByLabelText(/Type the name/), 'Ina Soltveit');
    await user.click(screen.getByRole('button', { name: 'Erase account' }));
    await waitFor(() => expect(screen.getAllByRole('alert')).toHaveLength(2));
    expect(onClose).not.toHaveBeenCalled();
  });
});
