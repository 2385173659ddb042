import { screen, waitFor, within } from '@testing-library/react';
import type { MiscodedLines, RuleFileRead, RuleVersions } from '@zubrell/contract/rules';
import { Toaster } from 'sonner';
import { describe, expect, it, vi } from 'vitest';
import { type Answers, problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { testRule, testRuleBody } from '../../testing/testRule.ts';
import { BulkBar } from './BulkBar.tsx';
import { CorrectRuleDialog } from './CorrectRuleDialog.tsx';
import { ImportDialog } from './ImportDialog.tsx';
import { VersionsDialog } from './VersionsDialog.tsx';

const posted = (sent: ReturnType<typeof renderInBooks>['sent'], path: string) =>
  sent.find((each) => each.method !== 'GET' && each.path === path)?.body;

/** A file of rules; jsdom's have no text. */
const fileOf = (text: string) =>
  Object.assign(new File([text], 'rules.json', { type: 'application/json' }), {
    text: async () => text,
  });

describe('importing rules', () => {
  const file: RuleFileRead = {
    count: 3,
    names: [
      { kind: 'account', name: '6010 Freight out', id: '6010' },
      { kind: 'account', name: '7300 Kiln repairs', id: null },
      { kind: 'payee', name: 'Penhallow Clay', id: null },
    ],
    duplicates: ['Freight'],
  };
  const done = { step: 9, words: 'Imported 2 rules', imported: 2, leftOut: [] };

  function open(text: string | null, read: object = file, answers: Answers = {}) {
    const onDone = vi.fn();
    const view = renderInBooks(
      <>
        <ImportDialog text={text} onClose={vi.fn()} onDone={onDone} />
        <Toaster />
      </>,
      {
        answers: {
          'GET /api/books': {
            books: [
              { id: 'books', name: 'Larkmoor Kiln Works', role: 'owner' },
              { id: 'canoes', name: 'Fennick Canoe Hire', role: 'bookkeeper' },
              { id: 'press', name: 'Orrel Orchard Press', role: 'reviewer' },
            ],
          },
          'GET /setup': testBooks(),
          'GET /payee-uses': { uses: [] },
          'GET /account-uses': { uses: [] },
          'POST /rules/file/read': () => read,
          'POST /rules/file': done,
          ...answers,
        },
      },
    );
    return { ...view, onDone };
  }

  it('asks what the names are that are not here, and leaves out what is not answered', async () => {
    const { user, sent, onDone } = open(null);
    const confirm = await screen.findByRole('button', { name: 'Import' });
    expect(confirm).toHaveProperty('disabled', true);
    await user.upload(screen.getByLabelText('Rule file'), fileOf('{"rules":[]}'));
    expect(await screen.findByText(/3 rules are added, switched off/)).toBeDefined();
    const choices = screen.getAllByRole('listitem');
    expect(choices.map((each) => each.textContent)).toEqual([
      expect.stringContaining('7300 Kiln repairs'),
      expect.stringContaining('Penhallow Clay'),
    ]);
    await user.type(
      screen.getByRole('combobox', { name: 'account for 7300 Kiln repairs' }),
      'Freight{Enter}',
    );
    await user.click(screen.getByRole('checkbox', { name: /Also the 1 that are here already/ }));
    await user.click(confirm);
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(posted(sent, '/rules/file')).toEqual({
      text: '{"rules":[]}',
      choices: [
        { kind: 'account', name: '7300 Kiln repairs', id: '6010' },
        { kind: 'payee', name: 'Penhallow Clay', id: null },
      ],
      withDuplicates: true,
    });
  });

  it('says what is wrong with a file, and does not import it', async () => {
    const { user } = open(null, problem('INTERNAL'));
    await user.upload(await screen.findByLabelText('Rule file'), fileOf('no rules'));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(screen.getByRole('button', { name: 'Import' })).toHaveProperty('disabled', true);
  });

  it('copies into other books that one may change, and names what is left out there', async () => {
    const { user, sent, onDone } = open(
      '{"rules":[1]}',
      { ...file, names: [], duplicates: [] },
      {
        'POST /rules/file': {
          ...done,
          leftOut: [{ name: 'Clay', message: 'Clay names no account.' }],
        },
      },
    );
    const books = await screen.findByRole('combobox', { name: 'Into these books' });
    expect(
      within(books)
        .getAllByRole('option')
        .map((each) => each.textContent),
    ).toEqual(['Fennick Canoe Hire']);
    const confirm = screen.getByRole('button', { name: 'Import' });
    await waitFor(() => expect(confirm).toHaveProperty('disabled', false));
    await user.click(confirm);
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(await screen.findByText('Left out: Clay names no account.')).toBeDefined();
    expect(posted(sent, '/rules/file')).toMatchObject({ text: '{"rules":[1]}' });
  });
});

describe('earlier versions of a rule', () => {
  const version = (step: number, word: string, words: string) => ({
    step,
    at: '2026-03-02T09:00:00Z',
    who: 'Mo Oakes',
    words,
    rule: { name: 'Freight', isOn: step > 5, body: testRuleBody(word) },
  });
  const versions: RuleVersions = {
    versions: [
      version(12, 'freight', 'Changed rule Freight'),
      { ...version(9, 'frt', 'Deleted rule Freight'), rule: null },
      version(4, 'tidemark', 'Created rule Freight'),
    ],
  };
  const open = (answer: object = versions) => {
    const onClose = vi.fn();
    const view = renderInBooks(
      <VersionsDialog rule={testRule(1, 'Freight', { lastStep: 12 })} onClose={onClose} />,
      {
        answers: {
          'GET /rules/freight/versions': () => answer,
          'PUT /rules/freight': { step: 13, words: 'Changed rule Freight', openTaken: 0 },
        },
      },
    );
    return { ...view, onClose };
  };

  it('are told with who said so; the one that holds and one that was deleted bring nothing back', async () => {
    open();
    const items = await screen.findAllByRole('listitem');
    expect(items).toHaveLength(3);
    expect(items[0]?.textContent).toContain('Mo Oakes');
    expect(items[2]?.textContent).toContain('off · ');
    expect(screen.getAllByRole('button', { name: 'Restore version' })).toHaveLength(1);
  });

  it('hold again as they were, and propose before they post', async () => {
    const { user, sent, onClose } = open();
    await user.click(await screen.findByRole('button', { name: 'Restore version' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(posted(sent, '/rules/freight')).toMatchObject({
      name: 'Freight',
      isOn: false,
      seenStep: 12,
      body: { takes: testRuleBody('tidemark').takes, after: { kind: 'hold' } },
    });
  });

  it('are said not to be had where the server fails', async () => {
    open(problem('INTERNAL'));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
  });
});

describe('ticked rules', () => {
  const open = () => {
    const onDone = vi.fn();
    const onCopyElsewhere = vi.fn();
    const view = renderInBooks(
      <BulkBar ruleIds={['freight', 'clay']} onDone={onDone} onCopyElsewhere={onCopyElsewhere} />,
      {
        answers: {
          'POST /rules/change': { step: 5, words: 'Copied 2 rules', openTaken: 0 },
          'GET /rules/file': { rules: [] },
        },
      },
    );
    return { ...view, onDone, onCopyElsewhere };
  };

  it('are copied to other bank accounts, once one is chosen', async () => {
    const { user, sent, onDone } = open();
    await user.click(screen.getByRole('button', { name: 'Copy' }));
    await user.click(await screen.findByRole('button', { name: 'to other bank accounts …' }));
    const dialog = await screen.findByRole('dialog', { name: 'Copy to other bank accounts' });
    const confirm = within(dialog).getByRole('button', { name: 'Copy' });
    expect(confirm).toHaveProperty('disabled', true);
    await user.click(within(dialog).getByRole('button', { name: /all|every|any/i }));
    await user.click((await screen.findAllByRole('checkbox'))[0] as HTMLElement);
    await user.click(confirm);
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(posted(sent, '/rules/change')).toEqual({
      ruleIds: ['freight', 'clay'],
      to: 'copied',
      bankAccountIds: ['everyday'],
    });
  });

  it('are written to a file, which other books can take', async () => {
    const { user, onCopyElsewhere } = open();
    await user.click(screen.getByRole('button', { name: 'Copy' }));
    await user.click(await screen.findByRole('button', { name: 'to other books …' }));
    await waitFor(() => expect(onCopyElsewhere).toHaveBeenCalledWith('{\n  "rules": []\n}'));
  });

  it('are deleted as one step', async () => {
    const { user, sent, onDone } = open();
    await user.click(screen.getByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(posted(sent, '/rules/change')).toEqual({ ruleIds: ['freight', 'clay'], to: 'deleted' });
  });
});

describe('what a rule coded wrong', () => {
  const line = (id: string, fix: 'recode' | 'reopen') => ({
    id,
    date: '2026-03-04',
    amount: -4_850,
    description: `TIDEMARK ${id}`,
    bankAccountId: 'everyday',
    state: 'posted',
    accountIds: ['6010'],
    fix,
  });
  const found = {
    count: 240,
    lines: [line('1', 'recode'), line('2', 'reopen')],
  } as unknown as MiscodedLines;

  it('is put right, but for the lines that are said to be right', async () => {
    const onClose = vi.fn();
    const { user, sent } = renderInBooks(
      <CorrectRuleDialog rule={testRule(1, 'Freight')} found={found} onClose={onClose} />,
      {
        answers: {
          'GET /rules': { seenStep: 41, rules: [] },
          'POST /rules/freight/correct': { step: 42, words: 'Corrected', done: ['1'], leftOut: [] },
        },
      },
    );
    expect(await screen.findByText(/240 lines were coded by this rule/)).toBeDefined();
    expect(screen.getByText(/The newest 2 are listed/)).toBeDefined();
    expect(screen.getByText('reopen: the rule no longer applies')).toBeDefined();
    await user.click(screen.getByRole('checkbox', { name: 'Correct TIDEMARK 2' }));
    await user.click(screen.getByRole('button', { name: 'Correct 1 line' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(posted(sent, '/rules/freight/correct')).toMatchObject({ lineIds: ['1'] });
  });
});
