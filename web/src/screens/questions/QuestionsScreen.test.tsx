import { screen, waitFor, within } from '@testing-library/react';
import type { QuestionToMe } from '@zubrell/contract/questions';
import { describe, expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { QuestionsScreen } from './QuestionsScreen.tsx';

// What others change is told by a stream, which a test of its own covers.
vi.mock('../../app/useStepEvents.ts', () => ({ useStepEvents: () => undefined }));

const question = (id: string, change: Partial<QuestionToMe> = {}): QuestionToMe => ({
  id,
  askedOf: 'Ines Varga',
  words: 'What was this for?',
  askedBy: 'Mo Oakes',
  askedAt: '2026-03-28T09:00:00Z',
  state: 'open',
  lineCount: 1,
  answers: [],
  lines: [
    {
      id: 'l1',
      date: '2026-03-03',
      amount: -4_850,
      currency: 'EUR',
      description: 'TIDEMARK FRT 88121090',
      reference: 'INV 2093',
      attachments: [{ id: 'p1', fileName: 'receipt.pdf' }],
    },
  ],
  ...change,
});

function open(questions: readonly QuestionToMe[] | Response, answered: object = {}) {
  const shown =
    questions instanceof Response
      ? questions
      : { booksName: 'Larkmoor Kiln Works', currency: 'EUR', questions };
  return renderInBooks(<QuestionsScreen />, {
    answers: { 'GET /questions-to-me': shown, 'POST /questions/q1/answers': answered },
  });
}

describe('the questions for a client', () => {
  it('stand with the payment, its receipts and the day, and are answered in words', async () => {
    const { user, sent } = open([question('q1')]);
    const asked = within(await screen.findByRole('article'));
    expect(asked.getByText('−48.50')).toBeDefined();
    expect(asked.getByText('TIDEMARK FRT 88121090')).toBeDefined();
    expect(asked.getByText('3 March 2026')).toBeDefined();
    expect(asked.getByRole('link', { name: 'receipt.pdf' }).getAttribute('href')).toBe(
      '/api/books/books/attachments/p1',
    );
    const send = asked.getByRole('button', { name: 'Send answer' }) as HTMLButtonElement;
    expect(send.disabled).toBe(true);
    const field = asked.getByLabelText('Your answer to: What was this for?');
    await user.type(field, 'Clay for March');
    await user.click(send);
    await waitFor(() => expect((field as HTMLTextAreaElement).value).toBe(''));
    expect(sent.find(({ method }) => method === 'POST')).toMatchObject({
      path: '/questions/q1/answers',
      body: { words: 'Clay for March' },
    });
  });

  it('keep what was typed where the answer could not be sent', async () => {
    const { user } = open([question('q1')], problem('QUESTION_UNKNOWN'));
    const field = await screen.findByLabelText(/Your answer/);
    await user.type(field, 'Clay');
    await user.click(screen.getByRole('button', { name: 'Send answer' }));
    await waitFor(() =>
      expect(
        (screen.getByRole('button', { name: 'Send answer' }) as HTMLButtonElement).disabled,
      ).toBe(false),
    );
    expect((field as HTMLTextAreaElement).value).toBe('Clay');
  });

  it('show answered ones apart, with what was said', async () => {
    const answers = [
      { id: 'a', words: 'Two crates', who: 'Ines Varga', at: '2026-03-29T08:00:00Z' },
    ];
    open([question('q2', { state: 'answered', answers })]);
    expect(await screen.findByText('No questions for you')).toBeDefined();
    expect(screen.getByRole('heading', { name: 'Answered, not settled yet' })).toBeDefined();
    expect(screen.getByText(/Two crates/).textContent).toContain('Ines Varga, 29 Mar');
    expect(screen.getByPlaceholderText('Something to add')).toBeDefined();
  });

  it('say why they can’t be shown', async () => {
    open(problem('BOOKS_UNKNOWN'));
    expect(await screen.findByText(/you have no access to them/)).toBeDefined();
    expect(screen.queryByText('No questions for you')).toBeNull();
  });
});
