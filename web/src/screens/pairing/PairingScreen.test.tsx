import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { PairingScreen } from './PairingScreen.tsx';

const open = (query: string, answer: object = problem('LINE_UNKNOWN')) =>
  renderInBooks(<PairingScreen />, { query, answers: { 'GET /pairing': () => answer } });

describe('pairing', () => {
  it('of a line that was decided meanwhile says so, and goes back by the keyboard', async () => {
    const { user, router } = open('?line=gone');
    await router.navigate('/books/books/here?line=gone');
    expect(await screen.findByText(/Someone has already decided this line/)).toBeDefined();
    expect(screen.getByRole('alert').textContent).not.toBe('');
    const before = router.state.location.key;
    await user.keyboard('{Escape}');
    await waitFor(() => expect(router.state.location.key).not.toBe(before));
  });

  it('of no line asks the server nothing', async () => {
    const { sent } = open('');
    expect(await screen.findByText(/it isn’t in these books/)).toBeDefined();
    expect(sent).toEqual([]);
  });
});
