import type { Made, StepDone } from '@zubrell/contract/common';
import type { RuleSaved } from '@zubrell/contract/rules';
import type { TaxDraft, TaxReturns } from '@zubrell/contract/tax';
import { lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import { taxDue } from '@zubrell/core/tax/taxReturn';

import type { Patch } from './model.ts';
import type { Move } from './walker.ts';

/** Payees, accounts and the like; what is said of look-alikes; the lock date. */

const SEEN = { seenStep: Number.MAX_SAFE_INTEGER };

const thing = (kind: string, id: string, name: string | undefined): Patch => ({
  in: 'things',
  key: `${kind} ${id}`,
  value: name,
});

export const payee: Move = async (walker) => {
  // Now and then by a name that was there before, in another case.
  const gone = walker.model.steps.flatMap(({ patches, isInForce }) =>
    isInForce
      ? []
      : patches.flatMap((patch) =>
          patch.in === 'things' && patch.key.startsWith('payee ') && patch.value
            ? [patch.value.toUpperCase()]
            : [],
        ),
  );
  const again = walker.dice.chance(0.2) ? walker.oneOf(gone) : null;
  const name = again ?? walker.fresh('Payee');
  const done = await walker.mo.payee(name, walker.dice.pick(['supplier', 'customer']));
  return { ...done, patches: [thing('payee', done.id, name)] };
};

export const renamePayee: Move = async (walker) => {
  const id = walker.oneOf(walker.things('payee'));
  if (id === null) return null;
  const name = walker.fresh('Renamed');
  const done = await walker.mo.renamePayee(id, name);
  return { ...done, patches: [thing('payee', id, name)] };
};

export const account: Move = async (walker) => {
  const name = walker.fresh('Account');
  const code = String(walker.dice.whole(6200, 6899));
  const done = await walker.mo.account(code, name);
  return { ...done, patches: [thing('account', done.id, `${code} ${name}`)] };
};

export const changeAccount: Move = async (walker) => {
  const { client, dice, mo, model } = walker;
  const id = walker.oneOf(walker.things('account'));
  if (id === null) return null;
  const code = model.state.things.get(`account ${id}`)?.slice(0, 4);
  const name = walker.fresh('Changed');
  const change = dice.chance(0.3) ? { isOn: dice.chance(0.6) } : { name };
  const done = await client.send<StepDone>('PATCH', `${mo.path}/accounts/${id}`, change);
  return { ...done, patches: [thing('account', id, `${code} ${name}`)] };
};

export const bankAccount: Move = async (walker) => {
  if (walker.banksHere().length > 2) return null;
  const name = walker.fresh('Pot');
  const done = await walker.mo.bankAccount(name, walker.dice.digits(6));
  const { bankAccounts } = await walker.mo.setup();
  const made = bankAccounts.find(({ id }) => id === done.id);
  walker.banks.push({ id: done.id, account: made?.accountId ?? '' });
  return { ...done, patches: [thing('bank', done.id, name)] };
};

/** An opening balance; a second one is refused. */
export const opening: Move = async (walker) => {
  const { dice, mo } = walker;
  const bank = walker.oneOf(walker.banksHere());
  if (bank === null) return null;
  const { id, account: ledger } = bank;
  const amount = dice.whole(-5_000, 90_000);
  const date = '2026-02-28';
  const done = await mo.opening(id, date, amount);
  const key = `opening ${id}`;
  const legs = [
    { account: ledger, amount },
    { account: walker.account('3010'), amount: 0 - amount },
  ];
  const value = { key, date, legs, waits: 'never', uses: [`bank ${id}`] } as const;
  return { ...done, patches: [{ in: 'entries', key, value }] };
};

export const costObject: Move = async (walker) => {
  const name = walker.fresh('Job');
  const done = await walker.post<Made>('/cost-objects', { kind: 'job', name });
  return { ...done, patches: [thing('job', done.id, name)] };
};

export const settings: Move = async (walker) => {
  const value = walker.dice.whole(1, 9_999);
  const done = await walker.mo.settings({ assetThreshold: value * 100 });
  return { ...done, patches: [thing('settings', 'threshold', String(value))] };
};

/** Closes everything up to a day, or opens it again. */
export const lock: Move = async (walker) => {
  const isOpening = walker.model.state.lock.size > 0 && walker.dice.chance(0.7);
  const lockDate = isOpening ? null : walker.day(1, 12);
  const done = await walker.mo.settings({ lockDate });
  return { ...done, patches: [{ in: 'lock', key: 'lock', value: lockDate ?? undefined }] };
};

/** Files the tax return of the next month, up to March. */
export const taxReturn: Move = async (walker) => {
  const { client, mo } = walker;
  const { next } = await client.get<TaxReturns>(`${mo.path}/tax-returns`);
  const period = { from: next.from, to: lastDayOf(monthOf(next.from)) };
  if (period.to > '2026-03-31') return null;
  const { rows } = await client.get<TaxDraft>(
    `${mo.path}/tax-returns/next?from=${period.from}&to=${period.to}`,
  );
  const done = await walker.post<Made>('/tax-returns', {
    ...period,
    seenDue: taxDue(rows).due,
    movesTax: false,
    locks: false,
    note: null,
  });
  return { ...done, patches: [thing('tax', 'reported', period.to)] };
};

export const rule: Move = async (walker) => {
  const name = walker.fresh('Rule');
  const { account: accountId, uses } = walker.codable();
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' } };
  const has = { kind: 'text', field: 'wording', test: 'has', text: name, isExact: false };
  const done = await walker.post<RuleSaved>('/rules', {
    name,
    isOn: true,
    body: {
      takes: { direction: 'out', bankAccountIds: null, match: 'all', conditions: [has] },
      result: { kind: 'code', payee: { kind: 'open' }, parts: [part], note: null },
      after: { kind: 'hold' },
    },
    ...SEEN,
  });
  return { ...done, patches: [thing('rule', done.id, uses.join(', '))] };
};

/** Says that look-alikes of two lines are one payee's. */
export const merge: Move = async (walker) => {
  const lines = walker.someOf(walker.model.openLines(), 2);
  if (lines.length < 2) return null;
  const stems = await Promise.all(lines.map(async ({ id }) => (await walker.mo.line(id)).stem));
  const [into = '', other = ''] = stems;
  if (into === other) return null;
  const done = await walker.post<StepDone>('/stacks/merge', { stems, into });
  return { ...done, patches: [thing('alias', `${other} ${done.step}`, into)] };
};

export const markHabit: Move = async (walker) => {
  const line = walker.oneOf(walker.model.openLines());
  if (!line) return null;
  const { stem } = await walker.mo.line(line.id);
  const kind = walker.dice.pick(['blocked', 'forgotten'] as const);
  const done = await walker.post<StepDone>('/habits/marks', { kind, payeeId: null, stems: [stem] });
  return { ...done, patches: [thing('habit', stem, kind)] };
};

export const dismissNudge: Move = async (walker) => {
  const line = walker.oneOf(walker.model.openLines());
  if (!line) return null;
  const { stem } = await walker.mo.line(line.id);
  const nudge = walker.dice.pick(['fixedAsset', 'refund', 'loan'] as const);
  const done = await walker.post<StepDone>('/nudges/dismiss', { nudge, payeeId: null, stem });
  return { ...done, patches: [thing('nudge', `${nudge} ${stem}`, stem)] };
};
