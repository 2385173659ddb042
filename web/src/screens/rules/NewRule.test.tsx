import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testRule, testRuleBody, testTried } from '../../testing/testRule.ts';
import { fromAddress, NewRule } from './NewRule.tsx';

const DRAFT = 'POST /rules/draft';
const twin = testRule(3, 'Tidemark');

const open = (address: string, answers: Answers = {}) =>
  renderInBooks(<NewRule params={new URLSearchParams(address)} rules={[twin]} />, {
    answers: {
      'GET /rules': { seenStep: 33, rules: [twin] },
      'POST /rules/try': testTried,
      ...answers,
    },
  });

const nameField = () => screen.findByLabelText<HTMLInputElement>(/^Name/);

describe('what a rule is made from, as the address says', () => {
  it.each([
    ['line=l1&stem=TIDEMARK', { lineIds: ['l1'] }],
    ['stem=TIDEMARK&direction=in', { stem: 'TIDEMARK', direction: 'in' }],
    ['stem=TIDEMARK', { stem: 'TIDEMARK', direction: 'out' }],
    ['habit=p%20tidemark&account=6010', { habit: 'p tidemark', accountId: '6010' }],
    ['habit=p%20tidemark', null],
    ['', null],
  ])('%s', (address, from) => {
    expect(fromAddress(new URLSearchParams(address))).toEqual(from);
  });
});

describe('a new rule', () => {
  it('begins empty, without asking anything', async () => {
    const { sent } = open('');
    expect((await nameField()).value).toBe('');
    expect(sent.filter(({ path }) => path.startsWith('/rules/draft'))).toEqual([]);
  });

  it('is filled in from a line', async () => {
    const { sent } = open('line=l1', {
      [DRAFT]: { name: 'Tidemark Freight', body: testRuleBody('tidemark') },
    });
    expect((await nameField()).value).toBe('Tidemark Freight');
    expect(screen.getByDisplayValue('tidemark')).toBeDefined();
    expect(sent.find(({ path }) => path === '/rules/draft')?.body).toMatchObject({
      lineIds: ['l1'],
    });
  });

  it('is a twin of another, for the other direction', async () => {
    open('twin=tidemark');
    await nameField();
    expect(screen.getByLabelText<HTMLSelectElement>('Direction').value).toBe('in');
  });

  it('says why it can’t be filled in', async () => {
    open('line=gone', { [DRAFT]: () => problem('LINE_UNKNOWN') });
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.queryByLabelText(/^Name/)).toBeNull();
  });
});
