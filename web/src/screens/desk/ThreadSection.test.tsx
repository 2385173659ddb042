import { screen } from '@testing-library/react';
import type { Role } from '@zubrell/contract/books';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { ThreadSection } from './ThreadSection.tsx';

const QUESTION = {
  id: 'q1',
  askedOf: 'Rosa Lindqvarn',
  words: 'What was this for?',
  askedBy: 'Mo Oakes',
  askedAt: '2026-04-01T09:00:00Z',
  state: 'open',
  lineCount: 1,
  answers: [{ id: 'a1', words: 'Two crates.', who: 'Mo Oakes', at: '2026-04-02T09:00:00Z' }],
};

function open(role: Role) {
  const { books, ...rest } = testBooks();
  const setup = { ...rest, books: { ...books, role } };
  const thread = { questions: [QUESTION], attachments: [] };
  const answers = { 'GET /lines/l1/thread': thread };
  return renderInBooks(<ThreadSection lineId="l1" />, { setup, answers });
}

describe('what was asked about a line', () => {
  it('stands with its answers, and another can be written down by who keeps the books', async () => {
    const { user, sent } = open('bookkeeper');
    await screen.findByText('What was this for?');
    expect(screen.getByText(/Two crates/).textContent).toContain('written by Mo Oakes, 02 Apr');
    await user.type(screen.getByLabelText('Answer of Rosa Lindqvarn'), 'For the kiln.');
    await user.click(screen.getByRole('button', { name: 'Record answer' }));
    expect(sent).toContainEqual({
      method: 'POST',
      path: '/questions/q1/answers',
      body: { words: 'For the kiln.' },
    });
  });

  it('is only read by reviewers', async () => {
    open('reviewer');
    await screen.findByText('What was this for?');
    expect(screen.queryByLabelText('Answer of Rosa Lindqvarn')).toBeNull();
  });
});
