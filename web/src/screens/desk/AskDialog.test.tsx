import { screen, waitFor } from '@testing-library/react';
import { Toaster } from 'sonner';
import { describe, expect, it, vi } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine } from '../../testing/testLines.ts';
import { AskDialog } from './AskDialog.tsx';
import { lineRow } from './rows.ts';

const member = (name: string, role: string) => ({
  userId: name,
  name,
  email: `${name}@larkmoor.example`,
  role,
  seesOtherBooks: false,
});
const PEOPLE = {
  members: [member('Mo Oakes', 'owner'), member('Ines Varga', 'client')],
  invitations: [{ id: 'i', name: 'Bram Holt', role: 'client', expiresAt: '2026-05-01T00:00:00Z' }],
};
const ASKED = { step: 9, words: 'Asked Ines Varga', done: ['a'], leftOut: [] };

const row = lineRow(testLine('a'));

function shown(answers: Answers = {}) {
  const onClose = vi.fn();
  const all = {
    'GET /questions': { questions: [] },
    'GET /people': PEOPLE,
    'POST /questions': ASKED,
    ...answers,
  };
  const view = renderInBooks(
    <InDesk>
      <AskDialog row={row} onClose={onClose} />
      <Toaster />
    </InDesk>,
    { answers: all },
  );
  return { onClose, ...view };
}

describe('asking somebody about a line', () => {
  it('needs somebody and words, and sends both with the line', async () => {
    const { user, sent, onClose } = shown();
    expect(screen.getByText('Ask about the line of −48.50')).toBeDefined();
    const ask = () => screen.getByRole('button', { name: /^Ask/ });
    expect((ask() as HTMLButtonElement).disabled).toBe(true);
    await user.type(screen.getByLabelText('Who to ask'), 'Ines Varga');
    await user.click(screen.getByText('Is this personal, or for the business?'));
    const words = screen.getByLabelText('Question') as HTMLTextAreaElement;
    expect(words.value).toBe('Is this personal, or for the business?');
    await user.clear(words);
    expect((ask() as HTMLButtonElement).disabled).toBe(true);
    await user.type(words, 'Clay?');
    await user.click(ask());
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      target: { lineIds: ['a'] },
      askedOf: 'Ines Varga',
      words: 'Clay?',
    });
  });

  it('begins with who was asked last, which can be typed over', async () => {
    const asked = (askedOf: string) => ({ id: askedOf, askedOf });
    const { user } = shown({
      'GET /questions': { questions: [asked('Ines Varga'), asked('Bram Holt')] },
    });
    const who = screen.getByLabelText('Who to ask');
    await waitFor(() => expect(who).toHaveProperty('value', 'Bram Holt'));
    await user.clear(who);
    expect(who).toHaveProperty('value', '');
    await user.type(who, 'Mo');
    expect(who).toHaveProperty('value', 'Mo');
  });

  it('says whether who is asked will see it here', async () => {
    const { user } = shown();
    const who = screen.getByLabelText('Who to ask');
    await user.type(who, ' ines varga');
    expect(await screen.findByText(/ines varga sees the question after signing in/)).toBeDefined();
    await user.clear(who);
    await user.type(who, 'Somebody');
    expect(screen.getByText(/Somebody can’t sign in yet/)).toBeDefined();
  });

  it('offers clients first, then who is invited, then who was asked before', async () => {
    shown({
      'GET /questions': { questions: [{ id: 'q', askedOf: 'Orrin Bell', answers: [] }] },
    });
    await waitFor(() => expect(document.querySelectorAll('#asked-before option')).toHaveLength(4));
    const names = [...document.querySelectorAll('#asked-before option')].map((each) =>
      each.getAttribute('value'),
    );
    expect(names).toEqual(['Ines Varga', 'Bram Holt', 'Orrin Bell', 'Mo Oakes']);
  });

  it('stays open, with what was typed, where it is refused', async () => {
    const { user, onClose } = shown({
      'POST /questions': () => problem('PERIOD_CLOSED', { date: '3 March', closed: '31 March' }),
    });
    await user.type(screen.getByLabelText('Who to ask'), 'Ines Varga');
    await user.click(screen.getByRole('button', { name: /^Ask/ }));
    expect(await screen.findByText(/31 March/)).toBeDefined();
    expect(onClose).not.toHaveBeenCalled();
    expect((screen.getByLabelText('Who to ask') as HTMLInputElement).value).toBe('Ines Varga');
  });
});
