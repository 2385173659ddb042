import { screen } from '@testing-library/react';
import type { Board } from '@zubrell/contract/board';
import type { ProofCause } from '@zubrell/contract/desk';
import type { Question } from '@zubrell/contract/questions';
import type { ListedRule } from '@zubrell/contract/rules';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { NeedsYou } from './NeedsYou.tsx';

const board = (more: Partial<Board>): Board => ({
  months: ['2026-03'],
  rows: [],
  causes: [],
  clearing: [],
  journals: { due: 0, oldest: null, next: null },
  due: {
    billsOverdue: { count: 0, total: 0 },
    billsSoon: { count: 0, total: 0 },
    invoicesOverdue: { count: 0, total: 0 },
    month: null,
    tax: null,
  },
  open: { ready: 0, check: 0, blank: 0, asked: 0 },
  ...more,
});
const question = (more: Partial<Question>): Question => ({
  id: 'question',
  askedOf: 'Ines Varga',
  words: 'What was this for?',
  askedBy: 'Mo Oakes',
  askedAt: '2026-03-05T10:00:00Z',
  state: 'open',
  lineCount: 1,
  answers: [],
  ...more,
});
const rule = (id: string, more: Partial<ListedRule>) => ({
  id,
  number: 1,
  name: 'Owner’s groceries',
  isOn: true,
  health: [{ kind: 'overruled', kept: 2, of: 6 }],
  ...more,
});
const cause: ProofCause = {
  kind: 'bankDiffers',
  amount: 3_320,
  bankAccountId: 'everyday',
  date: '2026-03-21',
  lineId: null,
  entryId: null,
  text: null,
  since: '2026-03-20',
  likely: null,
};
const titles = () => screen.queryAllByRole('heading', { level: 3 }).map((each) => each.textContent);

describe('what needs somebody', () => {
  it('is nothing where nothing waits', async () => {
    renderInBooks(<NeedsYou board={board({})} />, {
      answers: { 'GET /questions': { questions: [] } },
    });
    expect(await screen.findByText('Nothing needs you here.')).toBeDefined();
    expect(titles()).toEqual([]);
  });

  it('is what somebody answered, and what is still out', async () => {
    const said = {
      id: 'a',
      words: 'Clay for the course',
      who: 'Ines Varga',
      at: '2026-03-06T08:00:00Z',
    };
    renderInBooks(<NeedsYou board={board({})} />, {
      answers: {
        'GET /questions': {
          questions: [
            question({
              id: 'one',
              state: 'answered',
              answers: [{ ...said, words: 'Not this' }, said],
            }),
            question({ id: 'two' }),
            question({ id: 'three', askedAt: '2026-03-07T10:00:00Z' }),
          ],
        },
      },
    });
    expect(await screen.findByText('Ines Varga answered')).toBeDefined();
    expect(screen.getByText(/What was this for/).textContent).toContain('Clay for the course');
    expect(screen.getByText('2 questions are waiting for answers')).toBeDefined();
    expect(screen.getByText(/The oldest of 05 Mar, to Ines Varga/)).toBeDefined();
    expect(screen.getByText('Go to Asked').getAttribute('href')).toBe(
      '/books/books/desk?lane=asked',
    );
  });

  it('is a rule that is on and disagrees with what was done, none that is off or well', async () => {
    renderInBooks(<NeedsYou board={board({})} />, {
      answers: {
        'GET /rules': {
          rules: [
            rule('bad', {}),
            rule('off', { isOn: false, name: 'Kiln lease' }),
            rule('well', { health: [], name: 'Pitch fees' }),
            rule('missing', { health: [{ kind: 'takesNothing', nearMisses: 3 }], name: 'Dunmere' }),
          ],
        },
      },
    });
    expect(await screen.findByText('A rule disagrees with you')).toBeDefined();
    expect(screen.getByText(/“Owner’s groceries”/)).toBeDefined();
    expect(screen.getAllByText('Open rule')).toHaveLength(1);
    expect(screen.getByText('Open rule').getAttribute('href')).toBe('/books/books/rules/bad');
  });

  it('is what waits between own accounts, and what is unexplained, with the way there', async () => {
    const clearing: Board['clearing'] = [
      {
        role: 'transfers',
        accountId: '1090',
        balance: 10_000,
        count: 1,
        since: '2026-03-10',
        days: 29,
        isStale: true,
        who: 'Mo Oakes',
      },
    ];
    renderInBooks(<NeedsYou board={board({ clearing, causes: [cause] })} />);
    expect(await screen.findByText('100.00 between own accounts')).toBeDefined();
    expect(screen.getByText(/29 days, longer than these books allow/)).toBeDefined();
    expect(screen.getByText(/the last by Mo Oakes/)).toBeDefined();
    expect(screen.getByText('Everyday account: 33.20 unexplained')).toBeDefined();
    expect(screen.getByText('Open the month').getAttribute('href')).toBe(
      '/books/books/desk?account=everyday&period=2026-03',
    );
    expect(screen.queryByText('Nothing needs you here.')).toBeNull();
  });
});
