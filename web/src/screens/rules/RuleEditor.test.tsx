import { cleanup, screen, waitFor, within } from '@testing-library/react';
import type { ListedRule } from '@zubrell/contract/rules';
import { expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testTried } from '../../testing/testRule.ts';
import { RuleEditor } from './RuleEditor.tsx';
import { draftOfRule } from './ruleDraft.ts';

const freight: ListedRule = {
  id: 'r1',
  number: 1,
  name: 'Freight',
  isOn: true,
  body: {
    takes: {
      direction: 'out',
      bankAccountIds: null,
      match: 'all',
      conditions: [
        { kind: 'text', field: 'wording', test: 'has', text: 'tidemark', isExact: false },
      ],
    },
    result: {
      kind: 'code',
      payee: { kind: 'fixed', payeeId: 'tidemark' },
      parts: [{ accountId: '6010', taxCodeId: null, share: { kind: 'rest' } }],
      note: null,
    },
    after: { kind: 'hold' },
  },
  lastStep: 5,
  used: 6,
  open: 2,
  kept: 5,
  looked: 6,
  postedAtOnce: 0,
  keptInRow: 5,
  lastUsed: '2026-03-01',
  health: [{ kind: 'overruled', kept: 1, of: 6 }],
};

const tried = { ...testTried, takes: 9, same: 7, open: 2 };

function shown(rule: ListedRule | null = freight, answers: Record<string, object> = {}) {
  const start = draftOfRule(rule ?? { ...freight, name: '' });
  return renderInBooks(<RuleEditor rule={rule} rules={[freight]} start={start} />, {
    answers: {
      'GET /rules': { seenStep: 33, rules: [freight] },
      'POST /rules/try': tried,
      'PUT /rules/r1': { step: 34, words: 'Changed the rule', id: 'r1', openTaken: 2 },
      'POST /rules': { step: 34, words: 'Made the rule', id: 'r2', openTaken: 2 },
      'GET /rules/r1/miscoded': { count: 0, lines: [] },
      ...answers,
    },
  });
}

const save = () => screen.getByRole('button', { name: 'Save rule' }) as HTMLButtonElement;

it('says what is wrong with a rule, and what it would take', async () => {
  const { sent } = shown();
  expect(screen.getByText('Changed by hand on 5 of its last 6 lines.')).toBeTruthy();
  await waitFor(() => expect(sent.some(({ path }) => path === '/rules/try')).toBe(true));
  expect(sent.find(({ path }) => path === '/rules/try')?.body).toMatchObject({ ruleId: 'r1' });
  expect(await screen.findByText('lines it matches')).toBeTruthy();
});

it('saves a changed rule as of the step at which it was opened', async () => {
  const { user, sent } = shown();
  const name = screen.getByLabelText('Name of the rule');
  await user.clear(name);
  await user.type(name, 'Freight out');
  await user.click(save());
  await waitFor(() => expect(sent.some(({ method }) => method === 'PUT')).toBe(true));
  expect(sent.find(({ method }) => method === 'PUT')).toMatchObject({
    path: '/rules/r1',
    body: { name: 'Freight out', isOn: true, seenStep: 5, body: freight.body },
  });
});

it('says what is missing, and does not save before', async () => {
  const { user, sent } = shown(null);
  expect(save().disabled).toBe(true);
  expect(screen.getByText(/is missing/)).toBeTruthy();
  await user.type(screen.getByLabelText('Name of the rule'), 'Freight');
  expect(save().disabled).toBe(false);
  await user.click(save());
  await waitFor(() =>
    expect(sent.some(({ method, path }) => method === 'POST' && path === '/rules')).toBe(true),
  );
  const wanted = sent.find(({ method, path }) => method === 'POST' && path === '/rules');
  expect(wanted?.body).toMatchObject({ name: 'Freight', seenStep: 33 });
});

it('asks before it saves a rule that goes against what was coded by hand', async () => {
  const { user, sent } = shown(null, { 'POST /rules/try': { ...tried, against: 72 } });
  const saved = () => sent.filter(({ method, path }) => method === 'POST' && path === '/rules');
  await user.type(screen.getByLabelText('Name of the rule'), 'Clay');
  await user.click(save());
  const dialog = await screen.findByRole('dialog');
  expect(dialog.textContent).toContain('72 lines that this rule takes were coded differently');
  await user.click(within(dialog).getByText('Keep editing'));
  expect(saved()).toHaveLength(0);
  await user.click(save());
  await user.click(within(await screen.findByRole('dialog')).getByText('Save rule'));
  await waitFor(() => expect(saved()).toHaveLength(1));
});

it('offers to correct what a rule coded before it was changed, line by line', async () => {
  const line = (id: string, fix: 'recode' | 'reopen') => ({
    id,
    fix,
    bankAccountId: 'everyday',
    date: '2026-03-03',
    amount: -4_850,
    description: `TIDEMARK ${id}`,
    reference: null,
    payee: null,
    stem: 'TIDEMARK',
    state: 'posted',
    accountIds: ['6020'],
    taxCodeId: null,
    isSame: false,
    source: 'rule',
    sourceRuleId: 'r1',
    isChanged: false,
    earlierRuleId: null,
    missed: null,
  });
  const { user, sent } = shown(freight, {
    'GET /rules/r1/miscoded': { count: 2, lines: [line('1', 'recode'), line('2', 'reopen')] },
    'POST /rules/r1/correct': { step: 35, words: 'Corrected 1 line', done: ['1'], leftOut: [] },
  });
  await user.click(save());
  const dialog = await screen.findByRole('dialog');
  expect(within(dialog).getByText('reopen: the rule no longer applies')).toBeTruthy();
  await user.click(within(dialog).getByLabelText('Correct TIDEMARK 2'));
  await user.click(within(dialog).getByText('Correct 1 line'));
  await waitFor(() =>
    expect(sent.find(({ path }) => path === '/rules/r1/correct')?.body).toEqual({
      lineIds: ['1'],
      seenStep: 33,
    }),
  );
});

it('says on how many lines it was tried, and that of very many it was only the newest', async () => {
  shown();
  await screen.findByText('Tried on all 40 lines as you type');
  cleanup();
  shown(freight, { 'POST /rules/try': { ...tried, lineCount: 100_240, isAll: false } });
  await screen.findByText('Tried on 100,240 lines, the newest and those still open, as you type');
});
