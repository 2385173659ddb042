import { screen, waitFor } from '@testing-library/react';
import type { Habit } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { testHabit } from '../../testing/testHabit.ts';
import { MergeHabit } from './MergeHabit.tsx';

const done = { step: 9, words: 'Merged 2 habits' };
const setup = testBooks();
setup.payees = [
  testPayee,
  { ...testPayee, id: 'frt', name: 'Tidemark Frt' },
  { ...testPayee, id: 'gone', name: 'Tidemark Old', mergedInto: 'tidemark', isOn: false },
];
const nameless = testHabit();
const other = testHabit({ key: '· TIDEMARK', name: 'Tidemark', stems: ['TIDEMARK'], times: 1_302 });
const ofPayee = testHabit({ key: 'tidemark', payeeId: 'tidemark' });

function open(habit: Habit, habits: readonly Habit[], answers: Answers = {}) {
  return renderInBooks(<MergeHabit habit={habit} habits={habits} />, {
    setup,
    answers: {
      'POST /payees/tidemark/merge': done,
      'POST /stacks/merge': done,
      ...answers,
    },
    place: { path: 'habits', address: 'habits' },
  });
}
const choose = async ({ user }: ReturnType<typeof open>, option: RegExp) => {
  await user.click(await screen.findByRole('button', { name: 'Merge with …' }));
  expect(screen.getByRole('button', { name: 'Merge habits' })).toHaveProperty('disabled', true);
  await user.click(screen.getByRole('combobox', { name: 'The other habit' }));
  await user.click(await screen.findByRole('option', { name: option }));
  await user.click(screen.getByRole('button', { name: 'Merge habits' }));
};
const posted = ({ sent }: ReturnType<typeof open>) =>
  sent.filter(({ method }) => method === 'POST').map(({ path, body }) => [path, body]);

describe('two habits that are one', () => {
  it('are merged by their payees, of which those that are gone are not offered', async () => {
    const view = open(ofPayee, [ofPayee]);
    await view.user.click(await screen.findByRole('button', { name: 'Merge with …' }));
    await view.user.click(screen.getByRole('combobox', { name: 'The other habit' }));
    expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual([
      'Tidemark Frt',
    ]);
    await view.user.click(screen.getByRole('option'));
    await view.user.click(screen.getByRole('button', { name: 'Merge habits' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(posted(view)).toEqual([['/payees/tidemark/merge', { into: 'frt' }]]);
    expect(view.router.state.location.search).toBe('?habit=frt');
  });

  it('are merged by their look-alikes where they have no payee', async () => {
    const view = open(nameless, [nameless, other, ofPayee]);
    await choose(view, /^Tidemark ?1,302 lines/);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(posted(view)).toEqual([
      ['/stacks/merge', { stems: ['TIDEMARK FRT', 'TIDEMARK'], into: 'TIDEMARK' }],
    ]);
  });

  it('stay two where the server refuses', async () => {
    const view = open(nameless, [nameless, other], {
      'POST /stacks/merge': () => problem('LINE_UNKNOWN'),
    });
    await choose(view, /^Tidemark/);
    await waitFor(() => expect(posted(view)).toHaveLength(1));
    expect(screen.getByRole('dialog')).toBeDefined();
    expect(view.router.state.location.search).toBe('');
  });

  it('are not offered where there is no other', () => {
    open(nameless, [nameless, ofPayee]);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
