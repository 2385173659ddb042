import type { StepDone } from '@zubrell/contract/common';
import type { DeskLine, DeskLines, LinesDone, Stack } from '@zubrell/contract/desk';
import type {
  DraftedRule,
  ListedRule,
  MiscodedLines,
  RuleBody,
  RuleFile,
  RuleFileRead,
  RuleLines,
  RuleList,
  RuleSaved,
  RuleSuggestions,
  RulesChanged,
  RulesImported,
  RuleTried,
  RuleTurns,
  RuleVersions,
} from '@zubrell/contract/rules';
import { beforeEach, describe, expect, it } from 'vitest';
import { bookkeeper } from '../../testing/bookkeeper.ts';
import { makeBooks } from '../../testing/client.ts';
import { ofxFile } from '../../testing/files.ts';
import { joinedAs } from '../../testing/joinedAs.ts';
import { setScene } from '../../testing/scene.ts';

const scene = setScene();
const { lanes, lineIds, post, stacks, undo } = scene;
const get = <T>(path: string) => scene.client.get<T>(`${scene.path}${path}`);
const send = <T>(path: string, body: object, method: 'POST' | 'PUT' = 'POST') =>
  scene.client.send<T>(method, `${scene.path}${path}`, body);

let count = 0;
/** Keeps a file with a line for each wording, of 12.00 out unless an amount is given. */
function keep(texts: readonly (string | readonly [string, string])[], month = '2026-03') {
  const lines = texts.map((each, at) => {
    count += 1;
    const [text, amount] = typeof each === 'string' ? [each, '-12.00'] : each;
    const day = String(at + 1).padStart(2, '0');
    return {
      date: `${month}-${day}`,
      amount: amount as string,
      text: text as string,
      id: `R${count}`,
    };
  });
  return scene.books.keep(`${month}.ofx`, ofxFile(lines, '0.00'));
}

const has = (text: string) =>
  ({ kind: 'text', field: 'wording', test: 'has', text, isExact: false }) as const;

/** What a rule says that codes to an account what has a word. */
async function coding(
  text: string,
  code: string,
  change: Partial<RuleBody> = {},
): Promise<RuleBody> {
  return {
    takes: { direction: 'out', bankAccountIds: null, match: 'all', conditions: [has(text)] },
    result: {
      kind: 'code',
      payee: { kind: 'open' },
      parts: [
        { accountId: await scene.books.accountId(code), taxCodeId: null, share: { kind: 'rest' } },
      ],
      note: null,
    },
    after: { kind: 'hold' },
    ...change,
  };
}

async function write(
  text: string,
  code: string,
  { name = text, ...change }: Partial<RuleBody> & { name?: string; beforeId?: string } = {},
): Promise<RuleSaved> {
  const { beforeId, ...body } = change;
  return send<RuleSaved>('/rules', {
    name,
    isOn: true,
    body: await coding(text, code, body),
    ...(beforeId ? { beforeId } : {}),
    seenStep: 1e6,
  });
}

const rules = async () => (await get<RuleList>('/rules')).rules;
const ruleNamed = async (name: string): Promise<ListedRule> => {
  const found = (await rules()).find((rule) => rule.name === name);
  if (!found) throw new Error(`no rule ${name}`);
  return found;
};
/** What trying all rules on all lines says of one. */
const turnsOf = async (name: string) => {
  const [{ id }, { found }] = [await ruleNamed(name), await get<RuleTurns>('/rules/turns')];
  return found.filter(({ ruleId }) => ruleId === id).map(({ health }) => health);
};
const save = ({ id, name, isOn, body }: ListedRule, change: object) =>
  send<RuleSaved>(`/rules/${id}`, { name, isOn, body, seenStep: 1e6, ...change }, 'PUT');
const account = (code: string) => scene.books.accountId(code);
const proposedTo = (found: readonly Stack[]) =>
  found.map(({ title, proposal }) => [
    title,
    proposal?.source,
    proposal?.kind === 'post' ? proposal.coding.parts[0]?.accountId : proposal?.kind,
  ]);

describe('a rule', () => {
  it('is applied at once to what is open, and taken back by undo', async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2', 'TIDEMARKS']);
    const saved = await write('tidemark', '5000');
    expect(saved).toMatchObject({
      openTaken: 2,
      words: 'Created rule “tidemark”: it takes 2 lines still open',
    });
    expect(await lanes()).toMatchObject({ ready: 2, blank: 1 });
    const [stack] = await stacks('ready');
    expect(stack?.proposal?.grounds).toEqual([
      { kind: 'rule', ruleId: saved.id, name: 'tidemark', leaves: ['payee', 'tax'] },
    ]);
    await undo();
    expect(await lanes()).toMatchObject({ ready: 0, blank: 3 });
    expect(await rules()).toEqual([]);
    await send('/steps/redo', { step: null });
    expect(await lanes()).toMatchObject({ ready: 2, blank: 1 });
  });

  it('takes lines by the stacks in which they are now', async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2', 'HARROW OVEN 1']);
    expect(await rules()).toEqual([]);
    const stems = ['HARROW OVEN', 'TIDEMARK IMPORT'];
    const { step } = await send<StepDone>('/stacks/merge', { stems, into: 'TIDEMARK IMPORT' });
    await write('oven', '5000');
    expect(await lanes()).toMatchObject({ ready: 1, blank: 2 });
    await undo(step);
    await write('harrow', '6020', { name: 'first', beforeId: (await ruleNamed('oven')).id });
    expect(proposedTo(await stacks('ready'))).toEqual([
      ['HARROW OVEN', 'rule', await account('6020')],
    ]);
  });

  it('leaves alone what somebody has already worked on', async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2']);
    const [lineId = ''] = await lineIds();
    const draft = { payeeId: null, accountId: await account('6010'), taxCodeId: null, note: null };
    await send(`/lines/${lineId}/draft`, { coding: draft, version: 0 }, 'PUT');
    await write('tidemark', '5000');
    const { lines } = await get<{ lines: DeskLine[] }>(
      '/stack-lines?lane=ready&grouping=lookAlikes&direction=out&key=TIDEMARK%20IMPORT',
    );
    expect(lines.find(({ id }) => id === lineId)?.draft?.accountId).toBe(draft.accountId);
    const sweep = await get<{ seenStep: number; seen: string[]; count: number }>('/sweep');
    expect(sweep.count).toBe(1);
  });

  it('goes before habits, and keeps what they would have said beside it', async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2', 'TIDEMARK IMPORT 3'], '2026-02');
    await post(await lineIds(), '6010');
    await keep(['TIDEMARK IMPORT 4']);
    await write('tidemark', '5000');
    const [stack] = await stacks('check');
    expect(proposedTo([stack as Stack])).toEqual([
      ['TIDEMARK IMPORT', 'rule', await account('5000')],
    ]);
    expect(stack?.proposal?.grounds[1]).toMatchObject({ kind: 'habitSays', times: 3, of: 3 });
  });

  it('leaves open what it does not state, to be filled in as look-alikes have it', async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2', 'TIDEMARK IMPORT 3'], '2026-02');
    const { id: payeeId } = await send<{ id: string }>('/payees', {
      name: 'Tidemark',
      kind: 'supplier',
    });
    const taxCodeId = await scene.books.taxCodeId('20 %');
    const accountId = await account('6010');
    const part = { accountId, taxCodeId, share: { kind: 'rest' }, tax: null };
    const target = { lineIds: await lineIds() };
    const full = { payeeId, parts: [part], note: null };
    await send('/lines/post', { target, coding: full, seenStep: 1e6 });
    await write('tidemark', '6010');
    await keep(['TIDEMARK IMPORT 4']);
    expect((await stacks('ready'))[0]?.proposal).toMatchObject({
      source: 'rule',
      coding: { payeeId, parts: [{ accountId, taxCodeId }] },
    });
    // Another tax is no objection to a rule that states none.
    await post(await lineIds('ready'), '6010');
    expect(await ruleNamed('tidemark')).toMatchObject({ looked: 1, kept: 1 });
  });

  it('takes a line only where no earlier rule does, and takes turns when moved', async () => {
    await keep(['TIDEMARK IMPORT 1']);
    const first = await write('tidemark', '6010');
    const second = await write('import', '5000');
    expect(second.openTaken).toBe(0);
    const accountOf = async () => proposedTo(await stacks('ready'))[0]?.[2];
    expect(await accountOf()).toBe(await account('6010'));
    const moved = await send<RulesChanged>(`/rules/${second.id}/move`, { beforeId: first.id });
    expect(moved).toMatchObject({
      openTaken: 1,
      words: 'Moved the rule “import” to place 1: it takes 1 line still open',
    });
    expect((await rules()).map(({ name }) => name)).toEqual(['import', 'tidemark']);
    expect(await accountOf()).toBe(await account('5000'));
    await undo();
    expect((await rules()).map(({ name }) => name)).toEqual(['tidemark', 'import']);
    expect(await accountOf()).toBe(await account('6010'));
  });

  it('finds room however often rules are put between two others', async () => {
    const last = await write('last', '6010');
    for (let time = 0; time < 30; time += 1) {
      await write(`number ${time}`, '6010', { beforeId: last.id });
    }
    const names = (await rules()).map(({ name }) => name);
    expect(names).toEqual([...Array.from({ length: 30 }, (_, at) => `number ${at}`), 'last']);
    await send(`/rules/${(await rules())[30]?.id}/move`, { beforeId: (await rules())[0]?.id });
    expect((await rules())[0]?.name).toBe('last');
  });

  it('can split, ask, exclude what was before the opening, and move between own accounts', async () => {
    const setup = await scene.books.setup();
    await keep([['PAYOUT 1', '97.00'], 'WHAT IS IT 1', 'TO TAX POT 1', 'OLD STUFF 1']);
    const { id: potId } = await send<{ id: string }>('/bank-accounts', {
      name: 'Tax pot',
      kind: 'savings',
      bank: null,
      number: '4480',
    });
    const rest = { taxCodeId: null, share: { kind: 'grossUp', basisPoints: 300 } } as const;
    const sales = { taxCodeId: null, share: { kind: 'rest' } } as const;
    const taken = (text: string, direction: 'in' | 'out') => ({
      direction,
      bankAccountIds: [setup.bankAccounts[0]?.id ?? ''],
      match: 'all' as const,
      conditions: [has(text)],
    });
    await write('payout', '4010', {
      takes: taken('payout', 'in'),
      result: {
        kind: 'code',
        payee: { kind: 'open' },
        parts: [
          { accountId: await account('6900'), ...rest },
          { accountId: await account('4010'), ...sales },
        ],
        note: 'of {date}',
      },
    });
    await write('what', '6010', {
      takes: taken('what', 'out'),
      result: { kind: 'ask', askedOf: 'Rosa', words: 'What was {description}?' },
    });
    await write('tax pot', '6010', {
      takes: taken('tax pot', 'out'),
      result: { kind: 'transfer', bankAccountId: potId },
    });
    await write('old', '6010', {
      takes: taken('old', 'out'),
      result: { kind: 'exclude', reason: 'beforeOpening' },
    });
    const { bankAccounts } = await scene.books.setup();
    const potLedgerId = bankAccounts.find(({ id }) => id === potId)?.accountId;
    const found = new Map(
      [...(await stacks('ready')), ...(await stacks('check')), ...(await stacks('blank'))].map(
        ({ title, proposal }) => [title.split(' ')[0], proposal],
      ),
    );
    expect(found.get('PAYOUT')).toMatchObject({ coding: { note: 'of 2026-03-01' }, doubts: [] });
    expect(found.get('TAX')).toMatchObject({
      coding: { parts: [{ accountId: potLedgerId }] },
      doubts: [],
    });
    expect(found.get('WHAT')).toMatchObject({ kind: 'ask', words: 'What was WHAT IS IT 1?' });
    // It is dated after the opening balance: the reason does not hold.
    expect(found.get('OLD')).toBeNull();
  });

  it.each([
    ['no condition', { conditions: [] }, 'RULE_NO_CONDITION'],
    ['a word of one letter', { conditions: [has('T')] }, 'RULE_SHORT_WORD'],
  ])('with %s is refused, and nothing is kept of it', async (_name, takes, code) => {
    const body = await coding('tidemark', '5000');
    const wanted = { name: 'X', isOn: true, body: { ...body, takes: { ...body.takes, ...takes } } };
    await expect(send('/rules', { ...wanted, seenStep: 1e6 })).rejects.toMatchObject({
      details: { code },
    });
    expect(await rules()).toEqual([]);
  });

  it('names only what is in these books', async () => {
    const other = await makeBooks(scene.client);
    const foreign = await other.accountId('5000');
    const body = await coding('tidemark', '5000');
    const result = {
      ...body.result,
      parts: [{ accountId: foreign, taxCodeId: null, share: { kind: 'rest' } }],
    };
    await expect(
      send('/rules', { name: 'X', isOn: true, body: { ...body, result }, seenStep: 1e6 }),
    ).rejects.toMatchObject({ details: { code: 'RULE_NAMES_GONE' } });
  });

  it('is not changed over somebody’s head', async () => {
    await write('tidemark', '5000');
    const rule = await ruleNamed('tidemark');
    await save(rule, { name: 'Tidemark' });
    await expect(save(rule, { seenStep: rule.lastStep, name: 'Mine' })).rejects.toMatchObject({
      details: { code: 'RULE_CHANGED', params: { who: 'Mo Oakes' } },
    });
  });

  it('keeps its versions', async () => {
    const { id } = await write('tidemark', '5000');
    await save(await ruleNamed('tidemark'), { isOn: false });
    const { versions } = await get<RuleVersions>(`/rules/${id}/versions`);
    expect(versions.map(({ words, rule }) => [words, rule?.isOn])).toEqual([
      ['Switched the rule “tidemark” off', false],
      ['Created rule “tidemark”', true],
    ]);
  });
});

describe('trying a rule', () => {
  beforeEach(async () => {
    await keep(['TIDEMARK IMPORT 1', 'TIDEMARK IMPORT 2'], '2026-01');
    await post(await lineIds(), '5000');
    await keep(['TIDEMARK IMPORT 3'], '2026-02');
    await post([...(await lineIds('check')), ...(await lineIds('ready'))], '6010');
    await keep(['TIDEMARK IMPORT 4', ['TIDEMARK REFUND', '12.00'], 'HARROW']);
  });
  const tried = async (body: RuleBody, ruleId: string | null = null) =>
    send<RuleTried>('/rules/try', { ruleId, body });

  it('says what it takes, how that was coded, and what it nearly takes', async () => {
    const found = await tried(await coding('tidemark', '5000'));
    expect(found).toMatchObject({
      lineCount: 6,
      takes: 4,
      same: 2,
      otherwise: 1,
      open: 1,
      earlier: 0,
      nearMisses: [{ missed: 'direction', count: 1 }],
      problem: null,
    });
    expect(found.lines.map(({ state, isSame }) => [state, isSame])).toEqual([
      ['open', null],
      ['posted', false],
      ['posted', true],
      ['posted', true],
    ]);
    expect(found.missedLines).toMatchObject([
      { description: 'TIDEMARK REFUND', missed: 'direction' },
    ]);
  });

  it('names the earlier rule, unless it is the one that is changed', async () => {
    const { id } = await write('import', '6010');
    const body = await coding('tidemark', '5000');
    expect(await tried(body)).toMatchObject({ earlier: 4 });
    expect(await tried(body, id)).toMatchObject({ earlier: 0 });
  });

  it('says why it can’t be saved, and takes nothing while it is unfinished', async () => {
    const found = await tried(await coding('', '5000'));
    expect(found).toMatchObject({ takes: 0 });
    expect(found.problem).toMatch(/Type a word/);
  });

  it('warns of short words with the lines that have them', async () => {
    await keep(['HARROW ABC 1', 'HARROW ABC 2'], '2026-04');
    expect((await tried(await coding('abc', '5000'))).warnings).toEqual([
      { word: 'ABC', kind: 'short', lines: 2 },
    ]);
  });

  it('changes nothing', async () => {
    const before = await lanes();
    await tried(await coding('harrow', '5000'));
    expect(await lanes()).toEqual(before);
    expect(await rules()).toEqual([]);
  });
});

describe('the record of a rule', () => {
  /** Posts what is Ready or in Check, a line at a time. */
  async function postEach(code: string): Promise<void> {
    for (const id of [...(await lineIds('ready')), ...(await lineIds('check'))]) {
      await post([id], code);
    }
  }

  /** Keeps ten lines of January that the rule takes, and posts each as it proposes: it may post at once from now on. */
  async function keepTen(): Promise<void> {
    await keep(
      Array.from({ length: 10 }, (_, at) => `PITCH ${at}`),
      '2026-01',
    );
    await postEach('6020');
  }

  it('counts what was kept and what was changed, and doubts a rule mostly overruled', async () => {
    const { id } = await write('pitch', '6020');
    await keep(['PITCH 1', 'PITCH 2', 'PITCH 3', 'PITCH 4', 'PITCH 5'], '2026-02');
    const [first = '', ...others] = await lineIds('ready');
    await post([first], '6020');
    for (const line of others) await post([line], '5000');
    await keep(['PITCH 6']);
    const rule = await ruleNamed('pitch');
    expect(rule).toMatchObject({ used: 5, looked: 5, kept: 1, open: 1, keptInRow: 0 });
    expect(rule.health).toContainEqual({ kind: 'overruled', kept: 1, of: 5 });
    expect((await stacks('check'))[0]?.proposal?.doubts).toEqual([
      { kind: 'ruleOverruled', kept: 1, of: 5 },
    ]);
    const { lines } = await get<RuleLines>(`/rules/${id}/lines`);
    expect(lines).toHaveLength(6);
    expect(lines.filter(({ isChanged }) => isChanged)).toHaveLength(4);
  });

  it('counts a sweep apart, until somebody corrects it', async () => {
    await write('pitch', '6020');
    await keep(['PITCH 1', 'PITCH 2']);
    const sweep = await get<{ seenStep: number; seen: string[] }>('/sweep');
    await send('/lines/sweep', { scope: {}, without: [], ...sweep });
    expect(await ruleNamed('pitch')).toMatchObject({ used: 2, looked: 0, kept: 0 });
    const { items } = await get<{ items: DeskLine[] }>('/decided-lines');
    const accountId = await account('5000');
    await send('/lines/recode', { target: { lineIds: [items[0]?.id] }, accountId, seenStep: 1e6 });
    expect(await ruleNamed('pitch')).toMatchObject({ used: 2, looked: 1, kept: 0 });
  });

  it('that was put right corrects what it had coded, as one step', async () => {
    const [wrong, right] = [await account('6020'), await account('5000')];
    const { id } = await write('pitch', '6020');
    await keep(['PITCH 1', 'PITCH 2', 'STALL PITCH', 'PITCH BY HAND']);
    const ready = await lineIds('ready');
    expect(ready).toHaveLength(4);
    const sweep = await get<{ seenStep: number; seen: string[] }>('/sweep');
    await send('/lines/sweep', { scope: {}, without: [], ...sweep });
    const decided = await get<{ items: DeskLine[] }>('/decided-lines');
    const idOf = (text: string) =>
      decided.items.find(({ description }) => description === text)?.id ?? '';
    // One was changed by hand since: that is no business of the rule.
    const byHand = {
      target: { lineIds: [idOf('PITCH BY HAND')] },
      accountId: await account('6010'),
    };
    await send('/lines/recode', { ...byHand, seenStep: 1e6 });
    expect(await get<MiscodedLines>(`/rules/${id}/miscoded`)).toEqual({ count: 0, lines: [] });

    const rule = await ruleNamed('pitch');
    const { conditions } = rule.body.takes;
    const not = { kind: 'text', field: 'wording', test: 'hasNot', text: 'stall', isExact: false };
    const part = { accountId: right, taxCodeId: null, share: { kind: 'rest' } };
    const body = {
      ...rule.body,
      takes: { ...rule.body.takes, conditions: [...conditions, not] },
      result: { ...rule.body.result, parts: [part] },
    };
    await send(`/rules/${id}`, { name: 'pitch', isOn: true, body, seenStep: 1e6 }, 'PUT');
    const found = await get<MiscodedLines>(`/rules/${id}/miscoded`);
    expect(found.lines.map(({ description, fix }) => [description, fix]).sort()).toEqual([
      ['PITCH 1', 'recode'],
      ['PITCH 2', 'recode'],
      ['STALL PITCH', 'reopen'],
    ]);
    const lineIdsToCorrect = [...found.lines.map((line) => line.id), idOf('PITCH BY HAND')];
    const done = await send<LinesDone>(`/rules/${id}/correct`, {
      lineIds: lineIdsToCorrect,
      seenStep: 1e6,
    });
    expect(done).toMatchObject({
      words: 'Corrected 3 lines that the rule “pitch” had coded',
      leftOut: [{ lineId: idOf('PITCH BY HAND'), code: 'RULE_LINE_RIGHT' }],
    });
    const mo = bookkeeper(scene.client, scene.books.id);
    const balances = () => Promise.all(['6020', '5000', '6010'].map(mo.balance));
    const [left, moved, own] = await balances();
    expect(left).toBe(0);
    expect(moved).toBeGreaterThan(0);
    expect(own).toBeGreaterThan(0);
    expect((await get<MiscodedLines>(`/rules/${id}/miscoded`)).count).toBe(0);
    const { items } = await get<{ items: DeskLine[] }>(
      `/decided-lines?ruleId=${id}&accountId=${right}`,
    );
    expect(items).toHaveLength(2);
    await undo();
    expect(await balances()).toEqual([expect.any(Number), 0, own]);
    expect(
      (await get<{ items: DeskLine[] }>(`/decided-lines?accountId=${wrong}`)).items,
    ).toHaveLength(3);
  });

  it('goes to Check while it goes against what was coded by hand, until three were kept', async () => {
    await keep(['PITCH 1', 'PITCH 2', 'PITCH 3'], '2026-02');
    await post(await lineIds('blank'), '5000');
    const tried = await send<RuleTried>('/rules/try', {
      ruleId: null,
      body: await coding('pitch', '6020'),
    });
    expect(tried).toMatchObject({ otherwise: 3, against: 3 });
    await write('pitch', '6020');
    await keep(['PITCH 4', 'PITCH 5', 'PITCH 6', 'PITCH 7']);
    const doubt = (needed: number) => [{ kind: 'ruleAgainstHand', times: 3, needed }];
    expect((await stacks('check'))[0]?.proposal?.doubts).toEqual(doubt(3));
    for (const id of (await lineIds('check')).slice(0, 3)) await post([id], '6020');
    expect(await lineIds('ready')).toHaveLength(1);
  });

  it('does not count what was undone', async () => {
    await write('pitch', '6020');
    await keep(['PITCH 1']);
    await post(await lineIds('ready'), '5000');
    await undo();
    expect(await ruleNamed('pitch')).toMatchObject({ used: 0, looked: 0 });
  });

  it('tells a rule that never gets a turn, one that takes nothing, and overlaps', async () => {
    const first = await write('pitch', '6020');
    const second = await write('saltmarsh', '4010');
    await write('nowhere', '4010');
    await keep(['SALTMARSH PITCH 1', 'SALTMARSH PITCH 2', 'SALTMARSH PITCH 3']);
    expect(await turnsOf('saltmarsh')).toEqual([{ kind: 'neverATurn', by: first.id, lines: 3 }]);
    expect(await turnsOf('nowhere')).toEqual([{ kind: 'takesNothing', nearMisses: 0 }]);
    expect(await turnsOf('pitch')).toEqual([{ kind: 'overlaps', with: second.id, lines: 3 }]);
  });

  it('tells an account that was switched off', async () => {
    await write('pitch', '6020');
    const path = `${scene.path}/accounts/${await account('6020')}`;
    await scene.client.send('PATCH', path, { isOn: false });
    expect((await ruleNamed('pitch')).health[0]).toEqual({
      kind: 'gone',
      what: '6020 Market and stall fees',
    });
  });

  it('lets a reviewer with leave say that it posts at once, and nothing else of it', async () => {
    await write('pitch', '6020');
    const petra = await joinedAs(scene, 'Petra Lindqvist', 'reviewer');
    const rule = await ruleNamed('pitch');
    const asPetra = async (change: object) =>
      petra.send('PUT', `${scene.path}/rules/${rule.id}`, {
        name: rule.name,
        isOn: true,
        body: rule.body,
        seenStep: 1e6,
        ...change,
      });
    const atOnce = await coding('pitch', '6020', { after: { kind: 'post', largest: null } });
    await expect(asPetra({ body: atOnce })).rejects.toThrow('LEAVE_NEEDED');
    const { leaves } = (await scene.books.setup()).books;
    const change = { leaves: { ...leaves, letRulesPost: ['reviewer'] } };
    await scene.client.send('PATCH', scene.path, change);
    await expect(asPetra({ name: 'Stalls' })).rejects.toThrow('ROLE_TOO_LOW');
    await expect(asPetra({ isOn: false })).rejects.toThrow('ROLE_TOO_LOW');
    await expect(asPetra({ body: await coding('stall', '6020') })).rejects.toThrow('ROLE_TOO_LOW');
    await expect(asPetra({ body: atOnce })).rejects.toThrow('RULE_POST_EARLY');
  });

  it('opens posting at once after ten kept in a row, and closes it after a correction', async () => {
    const { id } = await write('pitch', '6020');
    const atOnce = async (largest: number | null = null) =>
      save(await ruleNamed('pitch'), {
        body: await coding('pitch', '6020', { after: { kind: 'post', largest } }),
      });
    await keep(
      Array.from({ length: 9 }, (_, at) => `PITCH ${at}`),
      '2026-01',
    );
    await postEach('6020');
    await expect(atOnce()).rejects.toMatchObject({
      details: { code: 'RULE_POST_EARLY', params: { needed: 10, kept: 9 } },
    });
    await keep(['PITCH 10'], '2026-02');
    await postEach('6020');
    await atOnce(2_000);
    await keep(['PITCH 11', ['PITCH 12', '-20.01'], 'HARROW']);
    expect(await lanes()).toMatchObject({ posted: 11, ready: 1, blank: 1 });
    expect(await ruleNamed('pitch')).toMatchObject({ postedAtOnce: 1, looked: 10, keptInRow: 10 });
    const opened = await send<LinesDone>(`/rules/${id}/reopen`, { seenStep: 1e6 });
    expect(opened.done).toHaveLength(1);
    const [health] = (await ruleNamed('pitch')).health;
    expect(health).toMatchObject({ kind: 'stopped' });
    await keep(['PITCH 13'], '2026-04');
    expect(await ruleNamed('pitch')).toMatchObject({ postedAtOnce: 0 });
    expect((await lanes()).posted).toBe(10);
  });

  it('posts nothing at once that somebody was asked about, or that has a doubt', async () => {
    await write('pitch', '6020');
    await keepTen();
    // One that may be a fixed asset, and one that is asked about before the rule may post at once.
    await keep([['PITCH STALL BOUGHT', '-1200.00'], 'PITCH ASKED', 'PITCH PLAIN'], '2026-02');
    expect(await lanes()).toMatchObject({ check: 1, ready: 2 });
    const stack = (await stacks('ready')).find(({ title }) => title.includes('ASKED'));
    const asked = await get<{ lines: DeskLine[] }>(
      `/stack-lines?${new URLSearchParams({ lane: 'ready', grouping: 'lookAlikes', key: stack?.key ?? '', direction: 'out' })}`,
    );
    await send('/questions', {
      target: { lineIds: asked.lines.map(({ id }) => id) },
      askedOf: 'Ina Soltveit',
      words: 'What was it?',
      seenStep: 1e6,
    });
    const after = { kind: 'post', largest: null } as const;
    await save(await ruleNamed('pitch'), { body: await coding('pitch', '6020', { after }) });
    await keep(['PITCH NEW']);
    expect(await lanes()).toMatchObject({ posted: 12, check: 1, asked: 1, ready: 0 });
  });

  it('stays stopped while too few were kept since, and can be renamed', async () => {
    await write('pitch', '6020');
    await keepTen();
    const after = { kind: 'post', largest: null } as const;
    await save(await ruleNamed('pitch'), { body: await coding('pitch', '6020', { after }) });
    await keep(['PITCH 11'], '2026-02');
    const { items } = await get<DeskLines>('/decided-lines?kind=posted');
    await send('/lines/recode', {
      target: {
        lineIds: items.flatMap(({ id, date }) => (date.startsWith('2026-02') ? [id] : [])),
      },
      accountId: await account('6010'),
      seenStep: 1e6,
    });
    const stopped = { health: [{ kind: 'stopped' }], keptInRow: 0 };
    expect(await ruleNamed('pitch')).toMatchObject(stopped);
    await save(await ruleNamed('pitch'), { name: 'stalls' });
    expect(await ruleNamed('stalls')).toMatchObject(stopped);
    const texts = Array.from({ length: 10 }, (_, at) => `PITCH ${at + 20}`);
    await keep(texts, '2026-03');
    expect(await lanes()).toMatchObject({ posted: 11, ready: 10 });
    await postEach('6020');
    await save(await ruleNamed('stalls'), {});
    expect(await ruleNamed('stalls')).toMatchObject({ health: [], keptInRow: 10 });
    await keep(['PITCH 31'], '2026-04');
    expect(await lanes()).toMatchObject({ posted: 22, ready: 0 });
  });

  it('starts anew once the rule says something else', async () => {
    await write('pitch', '6020');
    await keepTen();
    const after = { kind: 'post', largest: null } as const;
    await expect(
      save(await ruleNamed('pitch'), { body: await coding('stall', '6020', { after }) }),
    ).rejects.toMatchObject({ details: { code: 'RULE_POST_EARLY', params: { kept: 0 } } });
  });
});

describe('making a rule from what is there', () => {
  beforeEach(async () => {
    await keep(
      [
        'CRD PUR TIDEMARK FRT 20318',
        'CRD PUR TIDEMARK FRT 20977',
        'CRD PUR TIDEMARK FRT 5',
        'CRD PUR TIDEMARK FRT 6',
      ],
      '2026-02',
    );
    await post(await lineIds(), '6010');
    await keep(['CRD PUR TIDEMARK FRT 7', 'HARROW 1']);
  });

  it('fills in the stable part of a line’s wording, and what look-alikes were coded to', async () => {
    const [lineId] = [...(await lineIds('ready')), ...(await lineIds('check'))];
    const drafted = await send<DraftedRule>('/rules/draft', { lineIds: [lineId] });
    expect(drafted.body.takes).toMatchObject({ direction: 'out', match: 'all' });
    expect(JSON.stringify(drafted.body.takes)).toContain('tidemark frt');
    expect(JSON.stringify(drafted.body.takes)).not.toMatch(/"[^"]*\d[^"]*"/);
    expect(drafted.body.result).toMatchObject({
      parts: [{ accountId: await account('6010'), taxCodeId: null }],
    });
    const stack = { stem: 'TIDEMARK FRT', direction: 'out' };
    expect((await send<DraftedRule>('/rules/draft', stack)).body).toEqual(drafted.body);
  });

  it('suggests a rule for what recurs, until there is one', async () => {
    const { suggestions } = await get<RuleSuggestions>('/rules/suggestions');
    expect(suggestions).toMatchObject([{ times: 4, name: 'Tidemark FRT' }]);
    await write('tidemark', '6010');
    expect(await get('/rules/suggestions')).toEqual({ suggestions: [] });
  });
});

describe('several rules', () => {
  it('are switched off and on, copied to other bank accounts, and deleted, each as one step', async () => {
    await keep(['TIDEMARK 1', 'HARROW 1']);
    const ids = [(await write('tidemark', '5000')).id, (await write('harrow', '6010')).id];
    const change = (body: object) => send<RulesChanged>('/rules/change', { ruleIds: ids, ...body });
    expect(await lanes()).toMatchObject({ ready: 2 });
    expect(await change({ to: 'off' })).toMatchObject({ words: 'Switched off 2 rules' });
    expect(await lanes()).toMatchObject({ ready: 0 });
    expect(await change({ to: 'on' })).toMatchObject({ openTaken: 2 });
    const card = await send<{ id: string }>('/bank-accounts', {
      name: 'Card',
      kind: 'card',
      bank: null,
      number: '9',
    });
    await change({ to: 'copied', bankAccountIds: [card.id] });
    expect(
      (await rules()).map(({ name, isOn, body }) => [name, isOn, body.takes.bankAccountIds]),
    ).toEqual([
      ['tidemark', true, null],
      ['harrow', true, null],
      ['tidemark (copy)', false, [card.id]],
      ['harrow (copy)', false, [card.id]],
    ]);
    await change({ to: 'deleted' });
    expect(await lanes()).toMatchObject({ ready: 0 });
    await undo();
    expect(await lanes()).toMatchObject({ ready: 2 });
    await expect(
      change({ ruleIds: ['00000000-0000-4000-8000-000000000000'], to: 'on' }),
    ).rejects.toMatchObject({ details: { code: 'RULE_UNKNOWN' } });
  });
});

describe('a rule file', () => {
  it('goes to other books off, in order, with what must be chosen, and points out duplicates', async () => {
    await write('tidemark', '5000');
    await send('/payees', { name: 'Harrow', kind: 'supplier' });
    const { payees } = await scene.books.setup();
    const body = await coding('harrow', '6010');
    const payee = { kind: 'fixed', payeeId: payees[0]?.id ?? '' } as const;
    const result = { ...body.result, payee } as RuleBody['result'];
    await write('harrow', '6010', { result });
    const file = await get<RuleFile>('/rules/file');
    expect(file).toMatchObject({ format: 'zubrell-rules', version: 1, currency: 'EUR' });
    const text = JSON.stringify(file);
    expect(await send<RuleFileRead>('/rules/file/read', { text })).toMatchObject({
      count: 2,
      duplicates: ['tidemark', 'harrow'],
    });
    const other = await makeBooks(scene.client);
    const there = <T>(path: string, wanted: object) =>
      scene.client.send<T>('POST', `/api/books/${other.id}${path}`, wanted);
    const read = await there<RuleFileRead>('/rules/file/read', { text });
    expect(read.duplicates).toEqual([]);
    expect(read.names.filter(({ id }) => id === null)).toEqual([
      { kind: 'payee', name: 'Harrow', id: null },
    ]);
    const importing = { text, choices: [], withDuplicates: false };
    expect(await there<RulesImported>('/rules/file', importing)).toMatchObject({
      imported: 1,
      leftOut: [{ name: 'harrow' }],
    });
    const made = await there<{ id: string }>('/payees', { name: 'Harrow Yard', kind: 'supplier' });
    const choices = [{ kind: 'payee', name: 'Harrow', id: made.id }];
    expect(await there<RulesImported>('/rules/file', { ...importing, choices })).toMatchObject({
      imported: 1,
      leftOut: [{ name: 'tidemark', message: '“tidemark”, which these books have already.' }],
    });
    const list = await scene.client.get<RuleList>(`/api/books/${other.id}/rules`);
    expect(list.rules.map(({ name, isOn }) => [name, isOn])).toEqual([
      ['tidemark', false],
      ['harrow', false],
    ]);
  });

  it('names what was put away since, which is to be chosen where it comes in', async () => {
    const made = await send<{ id: string }>('/accounts', {
      code: '5990',
      name: 'Old kiln',
      type: 'expense',
      parentId: null,
    });
    await write('pitch', '5990');
    await scene.client.send('PATCH', `${scene.path}/accounts/${made.id}`, { isOn: false });
    const file = await get<RuleFile>('/rules/file');
    expect(JSON.stringify(file)).toContain('5990 Old kiln');
    expect(JSON.stringify(file)).not.toContain(made.id);
    const text = JSON.stringify(file);
    expect((await send<RuleFileRead>('/rules/file/read', { text })).names).toEqual([
      { kind: 'account', name: '5990 Old kiln', id: null },
    ]);
  });

  it.each([
    ['no JSON', '{"format', 'RULE_FILE_UNREADABLE'],
    ['another kind of file', '{"format":"x","version":1}', 'RULE_FILE_UNREADABLE'],
    ['another version', '{"format":"zubrell-rules","version":2}', 'RULE_FILE_VERSION'],
    [
      'a rule with no name',
      '{"format":"zubrell-rules","version":1,"currency":"EUR","rules":[{}]}',
      'RULE_FILE_UNREADABLE',
    ],
    [
      'another currency',
      '{"format":"zubrell-rules","version":1,"currency":"CHF","rules":[]}',
      'RULE_FILE_CURRENCY',
    ],
  ])('that is %s is refused', async (_name, text, code) => {
    await expect(send('/rules/file/read', { text })).rejects.toMatchObject({ details: { code } });
    const importing = { text, choices: [], withDuplicates: false };
    await expect(send('/rules/file', importing)).rejects.toMatchObject({ details: { code } });
    expect(await rules()).toEqual([]);
  });
});
