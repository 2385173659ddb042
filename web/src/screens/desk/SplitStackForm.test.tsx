import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testStack } from '../../testing/testLines.ts';
import { SplitStackForm } from './SplitStackForm.tsx';

const done = { step: 13, words: 'Split CARD TAKINGS by 40117730, 40117748' };
const found = {
  before: 'TERMINAL',
  parts: [
    { word: '40117730', count: 120 },
    { word: '40117748', count: 78 },
  ],
};

function open(count: number, answer: object) {
  return renderInBooks(<SplitStackForm stack={testStack('CARD TAKINGS', { count })} />, {
    answers: { 'GET /stack-parts': answer, 'POST /stacks/split': done },
  });
}

describe('splitting a stack', () => {
  it('offers what tells its lines apart, and splits by all of it at once', async () => {
    const { user, sent } = open(198, { found });
    await screen.findByText(
      'This stack holds 2 kinds of lines: TERMINAL 40117730 in 120 lines, 40117748 in 78 lines.',
    );
    await user.click(screen.getByRole('button', { name: 'Split into 2 stacks' }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/stacks/split')?.body).toEqual({
        stem: 'CARD TAKINGS',
        words: ['40117730', '40117748'],
      }),
    );
  });

  it('splits by a word that is typed, where nothing is offered', async () => {
    const { user, sent } = open(198, { found: null });
    const button = screen.getByRole('button', { name: 'Split stack' });
    expect(button).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Word to split by'), 'import{Enter}');
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/stacks/split')?.body).toEqual({
        stem: 'CARD TAKINGS',
        words: ['import'],
      }),
    );
    expect(screen.queryByRole('button', { name: /^Split into/ })).toBeNull();
  });

  it('asks nothing of a stack that is read at a glance', async () => {
    const { sent } = open(5, { found });
    await screen.findByRole('button', { name: 'Split stack' });
    expect(sent.some(({ path }) => path.startsWith('/stack-parts'))).toBe(false);
  });
});
