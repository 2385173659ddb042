import { screen, waitFor, within } from '@testing-library/react';
import type { Step, Steps } from '@zubrell/contract/desk';
import { amountSaid, dateSaid, saidWords, say } from '@zubrell/core/words/say';
import { Toaster } from 'sonner';
import { describe, expect, it } from 'vitest';
import { applyLocale } from '../../app/formats.ts';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { HistoryScreen } from './HistoryScreen.tsx';

const step = (no: number, words: string, more: Partial<Step> = {}): Step => ({
  no,
  words,
  at: '2026-03-03T09:05:00Z',
  who: 'Mo Oakes',
  userId: 'mo',
  kind: 'post',
  said: null,
  undoes: null,
  itemCount: 1,
  hasLines: false,
  isUndone: false,
  ...more,
});
const steps = (items: readonly Step[], next: string | null = null): Steps => ({
  items: [...items],
  people: [{ id: 'f2b6c1de-0000-4000-8000-000000000001', name: 'Ines Varga' }],
  next,
});
const shown = (answers: Parameters<typeof renderInBooks>[1]) =>
  renderInBooks(
    <>
      <HistoryScreen />
      <Toaster />
    </>,
    answers,
  );

describe('the history', () => {
  it('shows who did what when, what was taken back, and what took it back', async () => {
    shown({
      answers: {
        'GET /steps': steps([
          step(3, 'Took back: Posted 2 lines', { undoes: 2, kind: 'undo' }),
          step(2, 'Posted 2 lines', { isUndone: true }),
          step(1, 'Made the bank account Everyday'),
        ]),
      },
    });
    const [, third, second, first] = await screen.findAllByRole('row');
    expect(third?.textContent).toContain('(step 2)');
    expect(within(third as HTMLElement).queryByRole('button')).toBeNull();
    expect(second?.querySelector('s')?.textContent).toBe('Posted 2 lines');
    expect(within(second as HTMLElement).getByRole('button').textContent).toBe('Redo');
    expect(first?.className).toBe('');
    expect(first?.textContent).toContain('03 Mar 09:05Mo Oakes');
    expect(within(first as HTMLElement).getByRole('button').textContent).toBe('Undo');
    expect(screen.queryByText('Older steps')).toBeNull();
  });

  it('takes a step back and brings another back, by its number', async () => {
    const { user, sent } = shown({
      answers: {
        'GET /steps': steps([
          step(2, 'Excluded 1 line', { isUndone: true }),
          step(1, 'Posted 1 line'),
        ]),
        'POST /steps/undo': { words: 'Took back: Posted 1 line', step: 3, turned: [] },
        'POST /steps/redo': { words: 'Brought back: Excluded 1 line', step: 4, turned: [] },
      },
    });
    await user.click(await screen.findByLabelText('Undo: Posted 1 line'));
    expect(await screen.findByText('Took back: Posted 1 line')).toBeDefined();
    await user.click(screen.getByLabelText('Redo: Excluded 1 line'));
    expect(await screen.findByText('Brought back: Excluded 1 line')).toBeDefined();
    expect(
      sent.filter(({ method }) => method === 'POST').map(({ path, body }) => [path, body]),
    ).toEqual([
      ['/steps/undo', { step: 1, withLater: false }],
      ['/steps/redo', { step: 2, withEarlier: false }],
    ]);
  });

  it('says why a step can’t be taken back', async () => {
    const { user } = shown({
      answers: {
        'GET /steps': steps([step(1, 'Posted 1 line')]),
        'POST /steps/undo': () => problem('STEP_UNDONE'),
      },
    });
    await user.click(await screen.findByLabelText('Undo: Posted 1 line'));
    expect(await screen.findByText(/already/i)).toBeDefined();
  });

  it('asks for words of a step once somebody has typed them, and says where none is like that', async () => {
    const { user, sent } = shown({
      answers: {
        'GET /steps': (query) =>
          query.get('search') === null ? steps([step(1, 'Posted 1 line')]) : steps([]),
      },
    });
    await screen.findByText('Posted 1 line');
    await user.type(screen.getByLabelText('Search the history'), 'clay');
    expect(await screen.findByText('No steps match.')).toBeDefined();
    const asked = sent.filter(({ path }) => path.startsWith('/steps')).map(({ path }) => path);
    expect(asked.at(-1)).toContain('search=clay');
    expect(asked).toHaveLength(2);
  });

  it('goes on to older steps', async () => {
    const { user, sent } = shown({
      answers: {
        'GET /steps': (query) =>
          query.get('cursor') === null
            ? steps([step(60, 'Posted 1 line')], 'older')
            : steps([step(9, 'Kept March’s file')]),
      },
    });
    await user.click(await screen.findByText('Older steps'));
    await waitFor(() => expect(screen.getByText('Kept March’s file')).toBeDefined());
    expect(sent.at(-1)?.path).toContain('cursor=older');
    expect(screen.getAllByRole('row')).toHaveLength(3);
  });

  it('begins with words on what will be here', async () => {
    shown({ answers: { 'GET /steps': steps([]) } });
    expect(await screen.findByText('No steps yet')).toBeDefined();
  });

  it('names the lines of a step, and undoes those that are ticked', async () => {
    const line = (id: string, isStanding: boolean) => ({
      id,
      bankAccountId: 'everyday',
      date: '2026-03-03',
      amount: -4_850,
      description: `TIDEMARK FRT ${id}`,
      isStanding,
    });
    const { user, sent } = shown({
      answers: {
        'GET /steps': steps([step(7, 'Posted 3 lines', { hasLines: true })]),
        'GET /steps/7/lines': {
          count: 3,
          lines: [line('1', true), line('2', false), line('3', true)],
        },
        'POST /steps/7/lines/undo': { words: 'Undid 1 line', step: 8, done: ['3'], leftOut: [] },
      },
    });
    await user.click(await screen.findByLabelText('Show lines of step 7'));
    const list = await screen.findByLabelText('Lines of step 7');
    expect(within(list).getByText('decided again since')).toBeDefined();
    expect(within(list).getByLabelText<HTMLInputElement>('Tick TIDEMARK FRT 2').disabled).toBe(
      true,
    );
    await user.click(within(list).getByText('Tick all'));
    await user.click(within(list).getByLabelText('Tick TIDEMARK FRT 1'));
    await user.click(within(list).getByText('Undo 1 line'));
    expect(await screen.findByText('Undid 1 line')).toBeDefined();
    expect(sent).toContainEqual({
      method: 'POST',
      path: '/steps/7/lines/undo',
      body: { lineIds: ['3'] },
    });
    expect(screen.getByText('Open in Decided').getAttribute('href')).toContain(
      '/desk?lane=decided&step=7',
    );
  });
});

it('shows a step with dates and amounts as its reader writes them, an older one as it was kept', async () => {
  applyLocale('de-DE');
  try {
    const said = say`Filed the tax return to ${dateSaid('2026-03-31')}, ${amountSaid(123_450, 'EUR')} due`;
    shown({
      answers: { 'GET /steps': steps([step(2, saidWords(said), { said }), step(1, 'Kept 1.00')]) },
    });
    await screen.findByText('Filed the tax return to 31 March 2026, 1.234,50 due');
    screen.getByText('Kept 1.00');
  } finally {
    applyLocale('en-GB');
  }
});
