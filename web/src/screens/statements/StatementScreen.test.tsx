import { screen, within } from '@testing-library/react';
import type { BooksSetup } from '@zubrell/contract/books';
import type { Explanation, Statement } from '@zubrell/contract/statements';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { rowsAnswer, testRow, testSameTwice, testStatement } from '../../testing/testStatement.ts';
import { CauseCard } from './CauseCard.tsx';
import { Equation } from './Equation.tsx';
import { StatementFoot } from './StatementFoot.tsx';
import { StatementSide } from './StatementSide.tsx';
import { StatementTabs } from './StatementTabs.tsx';

const cause = (more: Partial<Explanation['causes'][number]>): Explanation['causes'][number] => ({
  ...testSameTwice,
  ...more,
});
const twice: Explanation = { key: 'twice', causes: [cause({})], likelihood: 'very likely' };
const off = (more: Partial<Statement> = {}) =>
  testStatement({ closing: 94_200, off: 5_800, explanations: [twice], ...more });
const answers = { 'POST /bank-accounts/everyday/settle-cause': { step: 8, words: 'Excluded' } };
const show = (
  explanation: Explanation,
  statement: Partial<Statement> = {},
  setup: BooksSetup = testBooks(),
) =>
  renderInBooks(
    <CauseCard
      statement={off(statement)}
      explanation={explanation}
      isCurrent
      isTried={false}
      onTry={() => undefined}
    />,
    { answers, setup },
  );

describe('the equation of a statement', () => {
  it('says what adds up to what, and how much it is off', async () => {
    renderInBooks(<Equation statement={off()} tried={null} />);
    expect(await screen.findByText('1 February to 28 February 2026')).toBeDefined();
    expect(screen.getByText('2 lines in the period')).toBeDefined();
    expect(screen.getByText('−116.00')).toBeDefined();
    expect(screen.getByText('Off by 58.00')).toBeDefined();
  });

  it('says what it would be with an explanation that is tried', async () => {
    renderInBooks(<Equation statement={off()} tried={twice} />);
    expect(await screen.findByText('Would add up to')).toBeDefined();
    expect(screen.getByText('Would add up')).toBeDefined();
    const mistyped = { ...twice, causes: [cause({ kind: 'closingMistyped', amount: 5_000 })] };
    renderInBooks(<Equation statement={off()} tried={mistyped} />);
    expect(await screen.findByText('Would be off by 8.00')).toBeDefined();
  });

  it('takes a closing balance, and names a currency that is not the account’s to the server', async () => {
    const { user, sent } = renderInBooks(
      <Equation statement={testStatement({ closing: null, off: null })} tried={null} />,
      {
        answers: {
          'PATCH /bank-accounts/everyday/statements/2026-02-28': { step: 8, words: 'Recorded' },
        },
      },
    );
    await user.click(await screen.findByText('Enter closing balance'));
    const field = await screen.findByLabelText(/as the bank’s statement says/);
    await user.type(field, '48,5o');
    await user.click(screen.getByText('Save balance'));
    expect(field.getAttribute('class')).toContain('is-invalid');
    await user.clear(field);
    await user.type(field, '942.00 usd');
    await user.click(screen.getByText('Save balance'));
    expect(sent.at(-1)?.body ?? sent.find(({ method }) => method === 'PATCH')?.body).toBeDefined();
    expect(sent.find(({ method }) => method === 'PATCH')?.body).toEqual({
      closing: { amount: 94_200, currency: 'USD' },
    });
  });
});

describe('what would explain a difference', () => {
  it('names its lines and why, and is settled by one press', async () => {
    const { user, sent } = show(twice);
    expect(await screen.findByText('The same payment twice')).toBeDefined();
    expect(screen.getByText(/The wording is the same/)).toBeDefined();
    await user.click(screen.getByText('Exclude the second copy'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      kind: 'excludeCopy',
      lineId: 'copy',
      copyOf: 'first',
      seenStep: 7,
    });
  });

  it.each([
    [
      cause({ kind: 'signTurned', instead: 5_800, lineIds: ['first'] }),
      'Replace by +58.00',
      { kind: 'replace', lineId: 'first', amount: 5_800, seenStep: 7 },
    ],
    [
      cause({ kind: 'announcedBooked', lineIds: ['copy', 'first'] }),
      'Exclude announced line',
      { kind: 'excludeCopy', lineId: 'copy', copyOf: 'first', seenStep: 7 },
    ],
    [
      cause({ kind: 'overEdge', move: 'toNext', lineIds: ['first'] }),
      'Move 1 line to the next statement',
      { lineIds: ['first'], into: 'next' },
    ],
    [
      cause({ kind: 'overEdge', move: 'toPrevious', lineIds: ['first'] }),
      'Move 1 line to the previous statement',
      { lineIds: ['first'], into: 'previous' },
    ],
    [
      cause({ kind: 'overEdge', move: 'fromNext', lineIds: ['a', 'b'] }),
      'Move 2 lines into this statement',
      { lineIds: ['a', 'b'], into: 'here' },
    ],
    [
      cause({ kind: 'keptOut', lineIds: ['first'] }),
      'Restore line',
      { target: { lineIds: ['first'] }, seenStep: 7 },
    ],
    [
      cause({ kind: 'closingMistyped', lineIds: [], instead: 88_400 }),
      'Change closing balance to 884.00',
      { closing: { amount: 88_400, currency: 'EUR' } },
    ],
  ])('offers what settles it (%#)', async (one, label, body) => {
    const { user, sent } = show({ key: 'one', causes: [one], likelihood: 'possible' });
    await user.click(await screen.findByText(label));
    expect(sent.filter(({ method }) => method !== 'GET').map((each) => each.body)).toEqual([body]);
  });

  it.each([
    [cause({ kind: 'lineMissing', lineIds: [] }), 'Fetch or import those days', 'intake'],
    [cause({ kind: 'announcedBooked', lineIds: [] }), 'Fetch the feed again', 'intake'],
    [
      cause({ kind: 'opening', lineIds: [] }),
      'Open the statement before',
      'statements/everyday/2026-01-31',
    ],
  ])('leads to where it is settled (%#)', async (one, label, place) => {
    const before = { to: '2026-01-31', isAgreed: true };
    show({ key: 'one', causes: [one], likelihood: 'possible' }, { before });
    expect((await screen.findByText(label)).getAttribute('href')).toBe(`/books/books/${place}`);
  });

  it('is only told to a reviewer', async () => {
    show(twice, {}, testBooks({ role: 'reviewer' }));
    expect(await screen.findByText('The same payment twice')).toBeDefined();
    expect(screen.queryByText('Exclude the second copy')).toBeNull();
  });

  it('can be two causes together, each with its own action', async () => {
    const causes = [cause({}), cause({ kind: 'keptOut', lineIds: ['other'], amount: -100 })];
    show({ key: 'two', causes, likelihood: 'likely' });
    expect(await screen.findByText('Two causes together')).toBeDefined();
    expect(screen.getByText('Exclude the second copy')).toBeDefined();
    expect(screen.getByText('Restore line')).toBeDefined();
  });

  it('says what else was looked for, and brings back what was set aside', async () => {
    renderInBooks(
      <StatementSide
        statement={off({ dismissedCount: 2 })}
        currentKey="twice"
        isTrying={false}
        onTry={() => undefined}
      />,
    );
    expect(await screen.findByText(/Also looked for: a turned sign/)).toBeDefined();
    expect(screen.getByText(/2 explanations set aside/)).toBeDefined();
  });
});

describe('a statement’s lines', () => {
  it('are moved to another statement when chosen', async () => {
    const { user, sent } = renderInBooks(<StatementTabs statement={off()} marked={['copy']} />, {
      answers: rowsAnswer(),
    });
    const [box] = await screen.findAllByLabelText(/Choose ORRIN MOBILE/);
    if (box) await user.click(box);
    const bar = within(screen.getByRole('toolbar', { name: 'Chosen lines' }));
    expect(bar.getByText('Move to previous statement').hasAttribute('disabled')).toBe(true);
    await user.click(bar.getByText('Move to next statement'));
    expect(sent.find(({ method }) => method === 'POST')).toMatchObject({
      path: '/bank-accounts/everyday/statements/2026-02-28/move-lines',
      body: { lineIds: ['first'], into: 'next' },
    });
  });

  it('say that they are late, open or kept out', async () => {
    const rows = [
      testRow({ id: 'late', isLate: true, date: '2026-01-30', state: 'open' }),
      testRow({ id: 'out', state: 'excluded', isCounted: false, runsTo: null }),
    ];
    const statement = testStatement({ lineCount: 4, openCount: 1, askedCount: 2 });
    renderInBooks(<StatementTabs statement={statement} marked={[]} />, {
      answers: rowsAnswer(rows),
    });
    expect(await screen.findByText('late')).toBeDefined();
    expect(screen.getByText('open')).toBeDefined();
    expect(screen.getByText('excluded').closest('tr')?.className).toContain('kept-out');
    expect(screen.getByText('1 decided, 2 asked, 1 open')).toBeDefined();
  });

  it('that count elsewhere are counted by their own date again when chosen', async () => {
    const elsewhere = [testRow({ id: 'moved', day: '2026-03-01', isCounted: false, runsTo: null })];
    const { user, sent } = renderInBooks(
      <StatementTabs statement={testStatement({ elsewhere })} marked={[]} />,
      { answers: rowsAnswer() },
    );
    await user.click(await screen.findByRole('button', { name: 'In other statements 1' }));
    expect(await screen.findByText('moved')).toBeDefined();
    await user.click(await screen.findByLabelText(/Choose ORRIN MOBILE/));
    await user.click(screen.getByRole('button', { name: 'Count lines by their date' }));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      lineIds: ['moved'],
      into: 'own',
    });
  });

  it('go to the previous statement as long as that is not agreed', async () => {
    const before = { to: '2026-01-31', isAgreed: false };
    const { user, sent } = renderInBooks(
      <StatementTabs statement={testStatement({ before })} marked={[]} />,
      { answers: rowsAnswer() },
    );
    const [first, second] = await screen.findAllByLabelText(/Choose ORRIN MOBILE/);
    if (!first || !second) throw new Error('there are two lines');
    await user.click(first);
    await user.click(second);
    await user.click(first);
    expect(screen.getByRole('toolbar').textContent).toContain('1 chosen');
    await user.click(screen.getByRole('button', { name: 'Move to previous statement' }));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      lineIds: ['copy'],
      into: 'previous',
    });
  });

  it('are not chosen by a reviewer', async () => {
    renderInBooks(<StatementTabs statement={testStatement()} marked={[]} />, {
      answers: rowsAnswer(),
      setup: testBooks({ role: 'reviewer' }),
    });
    expect(await screen.findAllByText('ORRIN MOBILE')).toHaveLength(2);
    expect(screen.queryByRole('checkbox')).toBeNull();
  });

  it('has beside it what the bank has not reported, and since when', async () => {
    const item = {
      amount: -31_240,
      bankAccountId: 'everyday',
      lineId: null,
      entryId: 'cheque',
      text: null,
      kind: 'cheque',
      number: '001042',
      payee: 'Penhallow Clay',
    } as const;
    const outstanding = [
      { ...item, date: '2026-02-27' },
      { ...item, entryId: 'old', number: '001007', date: '2025-11-30' },
    ];
    const { user } = renderInBooks(
      <StatementTabs statement={testStatement({ outstanding })} marked={[]} />,
      { answers: rowsAnswer() },
    );
    await user.click(await screen.findByRole('button', { name: 'Not yet at the bank 2' }));
    const [, young, old] = screen.getAllByRole('row').map(({ textContent }) => textContent);
    expect(young).toContain('cheque · 001042 · Penhallow Clay1 day−');
    expect(old).toContain('90 days, stale');
    expect(screen.getAllByText('−312.40')).toHaveLength(2);
  });

  it('that changed since it was closed are listed', async () => {
    const changes = [
      { lineId: 'first', date: '2026-02-14', text: 'ORRIN', amount: -5_800, what: 'open' as const },
    ];
    const { user } = renderInBooks(
      <StatementTabs statement={testStatement({ state: 'agreed', changes })} marked={[]} />,
      { answers: rowsAnswer() },
    );
    await user.click(await screen.findByText('Show changes'));
    expect(screen.getByText(/open again/)).toBeDefined();
    expect(screen.queryByLabelText(/Choose/)).toBeNull();
  });
});

describe('agreeing a statement', () => {
  const foot = (statement: Statement, role: 'owner' | 'bookkeeper' = 'owner') =>
    renderInBooks(<StatementFoot statement={statement} />, { setup: testBooks({ role }) });

  it('is one press where nothing is in the way, for those with leave', async () => {
    const { user, sent } = foot(testStatement());
    await user.click(await screen.findByText('Agree statement'));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({ seenStep: 7 });
    foot(testStatement(), 'bookkeeper');
    expect((await screen.findAllByText('Agree statement')).at(-1)?.hasAttribute('disabled')).toBe(
      true,
    );
  });

  it('is not offered while something is in the way', async () => {
    const hindrances = [{ code: 'STATEMENT_OFF', message: 'off' }];
    foot(off({ hindrances }));
    expect((await screen.findByText('Agree statement')).hasAttribute('disabled')).toBe(true);
  });

  it('is taken back with a reason', async () => {
    const { user, sent } = foot(testStatement({ state: 'agreed' }));
    await user.click(await screen.findByText('Reopen statement'));
    await user.type(await screen.findByLabelText('Reason, for History'), 'A line was missing');
    const [, confirm] = screen.getAllByText('Reopen statement');
    if (confirm) await user.click(confirm);
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      reason: 'A line was missing',
    });
  });
});
