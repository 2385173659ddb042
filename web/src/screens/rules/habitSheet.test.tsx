import { screen, waitFor, within } from '@testing-library/react';
import type { Habit } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { renderInBooks, type Sent } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { testHabit } from '../../testing/testHabit.ts';
import { HabitSheet } from './HabitSheet.tsx';

const done = { step: 9, words: 'Done' };
const payees = [
  testPayee,
  { ...testPayee, id: 'tide', name: 'Tidemark Frt' },
  { ...testPayee, id: 'stagwell', name: 'Stagwell Fuel' },
  { ...testPayee, id: 'gone', name: 'Gone Ltd', isOn: false },
  { ...testPayee, id: 'old', name: 'Old Tidemark', mergedInto: 'tidemark' },
];

function shown(change: Partial<Habit> = {}, others: readonly Habit[] = []) {
  const habit = testHabit(change);
  return renderInBooks(<HabitSheet habit={habit} habits={[habit, ...others]} />, {
    setup: { ...testBooks(), payees },
    answers: {
      'POST /habits/marks': done,
      'POST /habits/marks/mark/end': done,
      'POST /stacks/merge': done,
      'POST /payees/tide/merge': done,
    },
  });
}

const posted = (sent: readonly Sent[]) => sent.find(({ method }) => method === 'POST');
const factOf = (name: string) => screen.getByText(name).nextElementSibling?.textContent;
const linkTo = (name: string) => screen.getByRole('link', { name }).getAttribute('href');

describe('a habit', () => {
  it('says where its lines went, and leads to them and to a rule', () => {
    shown({
      times: 4,
      accounts: [
        { accountId: '6010', times: 3 },
        { accountId: '6020', times: 1 },
      ],
    });
    expect(screen.getByText('The 4 lines went to')).toBeDefined();
    expect(screen.getByText('3 of 4')).toBeDefined();
    expect(linkTo('6010 Freight out')).toContain('codedTo=6010');
    expect(screen.getByText(/Nothing separates the accounts/)).toBeDefined();
    const [rule] = screen.getAllByRole('link', { name: 'Create rule' });
    expect(rule?.getAttribute('href')).toBe(
      `/books/books/rules/new?habit=${encodeURIComponent('· TIDEMARK FRT')}&account=6010`,
    );
  });

  it('of one account has nothing to tell apart, and says what its record is', () => {
    shown({ times: 1, accounts: [{ accountId: '6010', times: 1 }], looked: 4, kept: 3, open: 2 });
    expect(screen.getByText('The one line went to')).toBeDefined();
    expect(screen.queryByText(/separates the accounts/)).toBeNull();
    expect(factOf('Seen before posting')).toMatch(/^4, /);
    expect(factOf('Posted unseen')).toBe('none');
    expect(factOf('Open now')).toBe('2');
    expect(screen.queryByText('Last')).toBeNull();
  });

  it('lists a dozen of its wordings', () => {
    shown({ stems: Array.from({ length: 15 }, (_, at) => `KILN ${at}`) });
    expect(screen.getByRole('link', { name: 'KILN 11' })).toBeDefined();
    expect(screen.queryByRole('link', { name: 'KILN 12' })).toBeNull();
    expect(screen.getByText('and 3 more')).toBeDefined();
  });

  it('is forgotten by its payee, or by its wordings where it has none', async () => {
    const { user, sent, unmount } = shown();
    await user.click(screen.getByRole('button', { name: 'Forget this habit' }));
    await waitFor(() =>
      expect(posted(sent)?.body).toEqual({
        kind: 'forgotten',
        payeeId: null,
        stems: ['TIDEMARK FRT'],
      }),
    );
    unmount();
    const ofPayee = shown({ key: 'tidemark', payeeId: 'tidemark' });
    await ofPayee.user.click(screen.getByRole('button', { name: 'Block this habit' }));
    await waitFor(() =>
      expect(posted(ofPayee.sent)?.body).toEqual({
        kind: 'blocked',
        payeeId: 'tidemark',
        stems: [],
      }),
    );
  });

  it('that is blocked can only be learned again', async () => {
    const { user, sent } = shown({ markId: 'mark' });
    expect(screen.getAllByRole('button')).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'Learn from these lines again' }));
    await waitFor(() => expect(posted(sent)?.path).toBe('/habits/marks/mark/end'));
  });
});

describe('merging a habit', () => {
  const choose = async (user: ReturnType<typeof shown>['user'], typed: string) => {
    await user.click(screen.getByRole('button', { name: 'Merge with …' }));
    const dialog = within(await screen.findByRole('dialog'));
    const confirm = dialog.getByRole('button', { name: 'Merge habits' }) as HTMLButtonElement;
    expect(confirm.disabled).toBe(true);
    await user.type(dialog.getByRole('combobox'), typed);
    const options = await screen.findAllByRole('option');
    const names = options.map(({ textContent }) => textContent);
    await user.click(options[0] ?? document.body);
    await user.click(confirm);
    return names;
  };

  it('is possible with any payee, also one whose habit isn’t listed yet', async () => {
    const other = testHabit({ key: 'stagwell', payeeId: 'stagwell', times: 7 });
    const { user, sent, router } = shown({ key: 'tide', payeeId: 'tide' }, [other]);
    expect(await choose(user, 'Tidemark')).toEqual(['Tidemark Freight']);
    await waitFor(() => expect(router.state.location.search).toBe('?habit=tidemark'));
    expect(posted(sent)).toMatchObject({
      path: '/payees/tide/merge',
      body: { into: 'tidemark' },
    });
  });

  it('joins the wordings of look-alikes, which are found by their lines', async () => {
    const blocked = testHabit({ key: '· KILN', name: 'Kiln', markId: 'mark' });
    const other = testHabit({ key: '· STAGWELL', name: 'Stagwell', stems: ['STAGWELL'], times: 1 });
    const { user, sent } = shown({}, [blocked, other]);
    expect(await choose(user, 'S')).toEqual(['Stagwell1 line']);
    await waitFor(() =>
      expect(posted(sent)?.body).toEqual({
        stems: ['TIDEMARK FRT', 'STAGWELL'],
        into: 'STAGWELL',
      }),
    );
  });

  it('isn’t offered where there is nothing to merge it with', () => {
    shown();
    expect(screen.queryByRole('button', { name: 'Merge with …' })).toBeNull();
  });
});
