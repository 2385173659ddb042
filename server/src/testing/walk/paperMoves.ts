import type { Made } from '@zubrell/contract/common';
import type { LinesDone } from '@zubrell/contract/desk';
import type { Documents } from '@zubrell/contract/documents';
import type { PairingView } from '@zubrell/contract/pairing';

import {
  type Decision,
  type Entry,
  type Leg,
  type Line,
  type Paper,
  type Patch,
  sum,
} from './model.ts';
import { codedLegs, someCoding } from './moves.ts';
import type { Move, Moved, Walker } from './walker.ts';

/** Documents, entries made by hand, and what lines are paired with of them. */

const SEEN = { seenStep: Number.MAX_SAFE_INTEGER };

const controlOf = (walker: Walker, side: Paper['side']) =>
  walker.account(side === 'payables' ? '2000' : '1200');

/** A document and what it books. */
function paperOf(
  walker: Walker,
  { id, kind, side, payee, number, date }: Omit<Paper, 'amount' | 'entry'>,
  gross: number,
): Paper {
  const isBack = kind === 'creditNote';
  const direction = (side === 'receivables') === isBack ? -1 : 1;
  const amount = direction * gross;
  const account = walker.account(side === 'payables' ? '5000' : '4010');
  const entry: Entry = {
    key: `paper ${id} ${gross} ${date}`,
    date,
    legs: [
      { account: controlOf(walker, side), amount },
      ...codedLegs(walker, amount, account, true),
    ],
    waits: 'never',
    uses: [`payee ${payee}`],
  };
  return { id, kind, side, payee, number, date, amount, entry };
}

function typedDocument(walker: Walker, paper: Omit<Paper, 'amount' | 'entry'>, gross: number) {
  const { kind, side, number, payee, date } = paper;
  const accountId = walker.account(side === 'payables' ? '5000' : '4010');
  const line = { text: '', accountId, taxCodeId: walker.tax, amount: gross, tax: null };
  return { kind, side, number, payeeId: payee, date, dueDate: null, note: null, lines: [line] };
}

export const document: Move = async (walker) => {
  const { dice, mo } = walker;
  const payee = walker.oneOf(walker.things('payee'));
  if (payee === null) return null;
  const kind = dice.pick(['bill', 'bill', 'invoice', 'invoice', 'creditNote'] as const);
  const side =
    kind === 'bill'
      ? 'payables'
      : kind === 'invoice'
        ? 'receivables'
        : dice.pick(['payables', 'receivables'] as const);
  const typed = { id: '', kind, side, payee, number: walker.fresh('N'), date: walker.day(1, 10) };
  const gross = dice.whole(1, 30_000);
  const done = await mo.document(typedDocument(walker, typed, gross));
  const paper = paperOf(walker, { ...typed, id: done.id }, gross);
  return { ...done, patches: [{ in: 'papers', key: done.id, value: paper }] };
};

/** Documents that nothing is settled of. */
const free = ({ model }: Walker) =>
  [...model.state.papers.values()].filter(
    (paper) =>
      model.openOf(paper) === paper.amount &&
      [...model.state.decisions.values()].every(({ settles }) =>
        settles.every((each) => each.paper !== paper.id),
      ),
  );

export const voidDocument: Move = async (walker) => {
  const paper = walker.oneOf(free(walker));
  if (paper === null) return null;
  const done = await walker.mo.voidDocument(paper.id);
  return { ...done, patches: [{ in: 'papers', key: paper.id, value: undefined }] };
};

export const changeDocument: Move = async (walker) => {
  const { client, dice, mo } = walker;
  const paper = walker.oneOf(free(walker).filter(({ side }) => side === 'payables'));
  if (paper === null) return null;
  const gross = dice.whole(1, 30_000);
  const changed = { ...paper, date: walker.day(1, 10) };
  const document = typedDocument(walker, changed, gross);
  const done = await client.send<Made>('PUT', `${mo.path}/documents/${paper.id}`, {
    document,
    ...SEEN,
  });
  const value = paperOf(walker, changed, gross);
  return { ...done, patches: [{ in: 'papers', key: paper.id, value }] };
};

/** A decision that settles documents. */
function settling(
  key: string,
  change: Partial<Omit<Decision, 'key'>>,
): Extract<Patch, { in: 'decisions' }> & { value: Decision } {
  const value: Decision = {
    key,
    kind: 'paired',
    weighs: true,
    lines: [],
    ties: [],
    settles: [],
    credit: null,
    rests: [],
    ...change,
  };
  return { in: 'decisions', key, value };
}

export const offset: Move = async (walker) => {
  const { model } = walker;
  const open = model.papers().filter((paper) => model.openOf(paper) !== 0);
  const first = walker.oneOf(open);
  const second = walker.oneOf(
    open.filter(
      (paper) =>
        first !== null &&
        paper.payee === first.payee &&
        Math.sign(model.openOf(paper)) === -Math.sign(model.openOf(first)),
    ),
  );
  if (!first || !second) return null;
  const date = walker.day();
  const done = await walker.post<Made>('/documents/offset', {
    documentIds: [first.id, second.id],
    date,
  });
  const size = Math.min(Math.abs(model.openOf(first)), Math.abs(model.openOf(second)));
  const settles = [first, second].map((paper) => ({
    paper: paper.id,
    amount: Math.sign(model.openOf(paper)) * size,
  }));
  const key = `offset ${done.id}`;
  if (first.side === second.side) return { ...done, patches: [settling(key, { settles })] };
  const legs = [first, second].map((paper, at): Leg => {
    return { account: controlOf(walker, paper.side), amount: 0 - (settles[at]?.amount ?? 0) };
  });
  model.made.set(key, { key, date, legs, waits: 'never', uses: [] });
  const ties = legs.map(({ account }) => ({ entry: key, account }));
  return { ...done, patches: [settling(key, { settles, ties })] };
};

type HandKind = 'payment' | 'receipt' | 'cheque' | 'deposit';
const isIn = (kind: HandKind) => kind === 'receipt' || kind === 'deposit';

/** An entry as it is typed, and all that it does. */
interface HandWritten {
  readonly typed: object;
  /** @param id what the server calls it */
  readonly patches: (id: string) => Promise<readonly Patch[]>;
}

function handWritten(walker: Walker): HandWritten | null {
  const { dice, model } = walker;
  const bank = walker.oneOf(walker.banksHere());
  if (bank === null) return null;
  const { id: bankId, account } = bank;
  const date = walker.day();
  const kind = dice.pick([
    'payment',
    'receipt',
    'cheque',
    'deposit',
    'transfer',
    'journal',
  ] as const);
  const typed = { kind, date, note: null, bankAccountId: bankId };
  const others = walker.banksHere().filter(({ id }) => id !== bankId);
  const uses = [`bank ${bankId}`];
  const plain = (legs: readonly Leg[], waits: Entry['waits'], own: readonly string[]) => {
    return async (id: string): Promise<readonly Patch[]> => [
      { in: 'entries', key: id, value: { key: id, date, legs, waits, uses: own } },
    ];
  };
  const amount = dice.whole(1, 20_000);
  const other = walker.oneOf(others);
  if (kind === 'transfer' && other) {
    const legs = [
      { account, amount: -amount },
      { account: other.account, amount },
    ];
    return {
      typed: { ...typed, toBankAccountId: other.id, amount },
      patches: plain(legs, 'always', [...uses, `bank ${other.id}`]),
    };
  }
  if (kind === 'journal') {
    const isAwaited = dice.chance(0.5);
    const isOnBank = dice.chance(0.5);
    const legs = [
      { account: isOnBank ? account : walker.account('6090'), amount: -amount },
      { account: walker.account('6010'), amount },
    ];
    return {
      typed: {
        kind,
        date,
        note: null,
        number: null,
        payeeId: null,
        isAwaited,
        legs: legs.map((leg) => ({ accountId: leg.account, amount: leg.amount })),
      },
      patches: plain(legs, isAwaited ? 'always' : 'never', isOnBank ? uses : []),
    };
  }
  const handKind = kind === 'transfer' ? 'payment' : kind;
  const sign = isIn(handKind) ? 1 : -1;
  const payeeId = walker.oneOf(walker.things('payee'));
  const payable = model
    .papers()
    .filter((paper) => paper.payee === payeeId && Math.sign(model.openOf(paper)) === sign);
  const paper = dice.chance(0.6) ? walker.oneOf(payable) : null;
  const open = paper ? Math.abs(model.openOf(paper)) : 0;
  const part = paper && dice.chance(0.3) ? dice.whole(1, open) : open;
  const more = paper === null || dice.chance(0.3) ? amount : 0;
  const leavesCredit = more > 0 && payeeId !== null && dice.chance(0.25);
  const coding = someCoding(walker);
  const isCoded = more > 0 && !leavesCredit;
  const settles = paper ? [{ documentId: paper.id, amount: sign * part }] : [];
  const money = sign * (part + more);
  const owed: Leg[] = [
    ...(paper ? [{ account: controlOf(walker, paper.side), amount: -sign * part }] : []),
    ...(leavesCredit
      ? [{ account: walker.account(sign > 0 ? '1200' : '2000'), amount: -sign * more }]
      : []),
  ];
  const legs = [{ account, amount: money }, ...owed, ...(isCoded ? coding.legs(sign * more) : [])];
  return {
    typed: {
      ...typed,
      kind: handKind,
      amount: Math.abs(money),
      number: walker.fresh('C'),
      payeeId,
      parts: isCoded ? coding.parts : [],
      settles,
      leavesCredit,
    },
    patches: async (id) => {
      const own = [
        ...uses,
        ...(isCoded ? coding.uses : []),
        ...(payeeId ? [`payee ${payeeId}`] : []),
      ];
      const entry = await plain(legs, 'always', own)(id);
      if (owed.length === 0) return entry;
      const credit = leavesCredit
        ? await creditOf(walker, payeeId ?? '', -sign * more, date)
        : null;
      return [
        ...entry,
        settling(`settled by ${id}`, {
          settles: settles.map((each) => ({ paper: each.documentId, amount: each.amount })),
          credit,
          rests: [`entry ${id}`],
        }),
      ];
    },
  };
}

/** Credit that was just left, as the server calls it. */
async function creditOf(
  { client, mo, model }: Walker,
  payee: string,
  amount: number,
  date: string,
): Promise<Paper> {
  const side = amount < 0 ? 'receivables' : 'payables';
  const { documents } = await client.get<Documents>(`${mo.path}/documents?side=${side}`);
  const known = new Set(
    model.steps.flatMap(({ patches }) =>
      patches.flatMap((patch) =>
        patch.in === 'decisions' && patch.value?.credit ? [patch.value.credit.id] : [],
      ),
    ),
  );
  const found = documents.find(({ id, kind }) => kind === 'credit' && !known.has(id));
  if (!found) throw new Error('the credit that was left is not found');
  return { id: found.id, kind: 'credit', side, payee, number: '', date, amount, entry: null };
}

export const enter: Move = async (walker) => {
  const written = handWritten(walker);
  if (written === null) return null;
  const done = await walker.mo.enter(written.typed);
  return { ...done, patches: await written.patches(done.id) };
};

/** Entries made by hand that no line is tied to. */
const untied = ({ model }: Walker) =>
  [...model.state.entries.values()].filter(
    ({ key, legs }) =>
      !key.startsWith('opening ') &&
      legs.every(({ account }) => model.tieOf(key, account) === null),
  );

/** What goes when an entry is voided. */
function gone({ model }: Walker, { key }: Entry): readonly Patch[] {
  const own = `settled by ${key}`;
  return [
    ...(model.state.decisions.has(own)
      ? [{ in: 'decisions', key: own, value: undefined } as const]
      : []),
    { in: 'entries', key, value: undefined },
  ];
}

export const voidEntry: Move = async (walker) => {
  const entry = walker.oneOf(untied(walker));
  if (entry === null) return null;
  const done = await walker.mo.voidEntry(entry.key);
  return { ...done, patches: gone(walker, entry) };
};

export const changeEntry: Move = async (walker) => {
  const entry = walker.oneOf(untied(walker));
  const written = handWritten(walker);
  if (entry === null || written === null) return null;
  const done = await walker.client.send<Made>('PUT', `${walker.mo.path}/entries/${entry.key}`, {
    entry: written.typed,
  });
  return { ...done, patches: [...gone(walker, entry), ...(await written.patches(done.id))] };
};

/** A line with what waits for it: an entry by hand, or the other half of a move. */
export const pairEntry: Move = async (walker) => {
  const { mo, model } = walker;
  const fits = walker.banksHere().flatMap((bank) =>
    model.waiting(bank.account).flatMap(({ entry, amount }) =>
      model
        .openLines()
        .filter((line) => line.bank === bank.id && line.amount === amount)
        .map((line) => ({ line, entry, bank })),
    ),
  );
  const fit = walker.oneOf(fits);
  if (fit === null) return null;
  const { line, entry, bank } = fit;
  const leg = await walker.legOf(entry.key, bank.id);
  if (leg === null) throw new Error(`the leg of ${entry.key} does not wait`);
  const done = await mo.pair([line.id], [leg]);
  if (done.step === null) return { ...done, patches: [] };
  const rests = model.state.entries.has(entry.key) ? [`entry ${entry.key}`] : [];
  const ties = [{ entry: entry.key, account: bank.account }];
  return {
    ...done,
    patches: [settling(`paired ${line.id} ${done.step}`, { lines: [line.id], ties, rests })],
  };
};

/** One or two lines with a document, with an answer for what they are off. */
export const pairDocument: Move = async (walker) => {
  const { dice, model } = walker;
  const paper = walker.oneOf(model.papers().filter((each) => model.openOf(each) !== 0));
  if (paper === null) return null;
  const open = model.openOf(paper);
  const first = walker.oneOf(
    model.openLines().filter(({ amount }) => Math.sign(amount) === Math.sign(open)),
  );
  if (first === null) return null;
  const second = dice.chance(0.25)
    ? walker.oneOf(
        model
          .openLines()
          .filter(
            ({ id, bank, amount }) =>
              id !== first.id && bank === first.bank && Math.sign(amount) === Math.sign(open),
          ),
      )
    : null;
  const lines = [first, ...(second ? [second] : [])].sort(inOrder);
  const by = sum(lines.map(({ amount }) => amount)) - open;
  const last = lines.at(-1);
  if (last === undefined || (lines.length > 1 && Math.abs(by) > Math.abs(last.amount))) return null;
  const isLess = Math.sign(by) === -Math.sign(open);
  const answers = ['code', ...(isLess ? ['partPaid'] : ['onAccount', 'onAccount'])];
  const answer = by === 0 ? null : dice.pick(answers);
  // A credit note that is paid out too much can leave no credit.
  const canLeave = (paper.side === 'receivables') === by > 0;
  if (answer === 'onAccount' && !canLeave) return null;
  return paired(walker, { lines, paper, by, answer, kind: 'document' });
};

const inOrder = (a: Line, b: Line) =>
  a.date < b.date ? -1 : a.date > b.date ? 1 : a.id < b.id ? -1 : 1;

interface Pairing {
  readonly lines: readonly Line[];
  readonly paper: Paper;
  /** How much more the lines come to than is open. */
  readonly by: number;
  readonly answer: string | null;
  readonly kind: 'document';
}

/** What pairing lines with a document does. */
async function paired(walker: Walker, { lines, paper, by, answer }: Pairing): Promise<Moved> {
  const { dice, mo, model } = walker;
  const isTaxed = dice.chance(0.5);
  const charges = walker.account('6900');
  const difference =
    answer === 'code'
      ? ({
          kind: 'code',
          accountId: charges,
          taxCodeId: isTaxed ? walker.tax : null,
          reason: 'rest',
        } as const)
      : answer === 'partPaid' || answer === 'onAccount'
        ? ({ kind: answer } as const)
        : null;
  const done = await mo.pair(
    lines.map(({ id }) => id),
    [paper.id],
    difference,
  );
  if (done.step === null) return { ...done, patches: [] };
  const control = controlOf(walker, paper.side);
  const coded = answer === 'code' ? codedLegs(walker, by, charges, isTaxed) : [];
  const settled = answer === 'partPaid' ? model.openOf(paper) + by : model.openOf(paper);
  const { account } = walker.bankOf(lines[0]?.bank ?? '');
  const ties = lines.map(({ id, date, amount }, at) => {
    const isLast = at === lines.length - 1;
    const own = isLast ? coded : [];
    const owed = { account: control, amount: 0 - amount - sum(own.map((leg) => leg.amount)) };
    const key = `payment ${id} ${done.step}`;
    const legs = [{ account, amount }, owed, ...own];
    model.made.set(key, { key, date, legs, waits: 'never', uses: [] });
    return { entry: key, account };
  });
  const credit =
    answer === 'onAccount'
      ? await creditOf(walker, paper.payee, -by, lines.at(-1)?.date ?? '')
      : null;
  const key = `paired ${lines.map(({ id }) => id).join()} ${done.step}`;
  const settles = [{ paper: paper.id, amount: settled }];
  return {
    ...done,
    patches: [settling(key, { lines: lines.map(({ id }) => id), ties, settles, credit })],
  };
}

/** Money in advance. */
export const advance: Move = async (walker) => {
  const { mo, model } = walker;
  const line = walker.oneOf(model.openLines());
  const payeeId = walker.oneOf(walker.things('payee'));
  if (!line || payeeId === null) return null;
  const done = await mo.pair([line.id], [], { kind: 'onAccount', payeeId });
  if (done.step === null) return { ...done, patches: [] };
  const { account } = walker.bankOf(line.bank);
  const key = `advance ${line.id} ${done.step}`;
  const control = walker.account(line.amount > 0 ? '1200' : '2000');
  const legs = [
    { account, amount: line.amount },
    { account: control, amount: -line.amount },
  ];
  model.made.set(key, { key, date: line.date, legs, waits: 'never', uses: [] });
  const credit = await creditOf(walker, payeeId, -line.amount, line.date);
  const ties = [{ entry: key, account }];
  const rests = [`payee ${payeeId}`];
  return { ...done, patches: [settling(key, { lines: [line.id], ties, credit, rests })] };
};

/** A payment that comes back opens its document again. */
export const returned: Move = async (walker) => {
  const { client, mo, model } = walker;
  const paid = [...model.state.decisions.values()].flatMap((decision) =>
    decision.lines.length === 0 && decision.rests.length === 0
      ? []
      : decision.settles.map((each) => ({ ...each, decision: decision.key })),
  );
  const fits = paid.flatMap((each) =>
    model
      .openLines()
      .filter(({ amount }) => amount === -each.amount)
      .map((line) => ({ ...each, line })),
  );
  const fit = walker.oneOf(fits);
  if (fit === null) return null;
  const { line, paper: paperId, amount, decision } = fit;
  const view = await client.get<PairingView>(`${mo.path}/pairing?lineId=${line.id}`);
  const paper = model.papers().find(({ id }) => id === paperId);
  const row = [...view.fits, ...view.nearMisses].find(
    (each) => each.kind === 'returned' && each.number === (paper?.number || null),
  );
  if (!row || !paper) return null;
  const same = paid.filter((each) => each.paper === paperId && each.amount === amount);
  // Two payments of one document and amount are decided by the server's ids alone.
  if (same.length > 1) return null;
  const done = await mo.pair([line.id], [row.id]);
  if (done.step === null) return { ...done, patches: [] };
  const { account } = walker.bankOf(line.bank);
  const key = `returned ${line.id} ${done.step}`;
  const legs = [
    { account, amount: line.amount },
    { account: controlOf(walker, paper.side), amount: -line.amount },
  ];
  model.made.set(key, { key, date: line.date, legs, waits: 'never', uses: [] });
  return {
    ...done,
    patches: [
      settling(key, {
        lines: [line.id],
        ties: [{ entry: key, account }],
        settles: [{ paper: paperId, amount: -amount }],
        rests: [`decision ${decision}`],
      }),
    ],
  };
};

/** A line with a bill of another amount, which was ours to correct. */
export const correct: Move = async (walker) => {
  const { mo, model } = walker;
  const bills = free(walker).filter(({ kind }) => kind === 'bill');
  const paper = walker.oneOf(bills);
  const line = walker.oneOf(
    model.openLines().filter(({ amount }) => amount < 0 && amount !== paper?.amount),
  );
  if (!paper || !line) return null;
  const done: LinesDone = await mo.pair([line.id], [paper.id], {
    kind: 'correct',
    targetId: paper.id,
  });
  if (done.step === null) return { ...done, patches: [] };
  const { account } = walker.bankOf(line.bank);
  const key = `corrected ${line.id} ${done.step}`;
  const control = controlOf(walker, paper.side);
  const legs = [
    { account, amount: line.amount },
    { account: control, amount: -line.amount },
  ];
  model.made.set(key, { key, date: line.date, legs, waits: 'never', uses: [] });
  return {
    ...done,
    patches: [
      { in: 'papers', key: paper.id, value: paperOf(walker, paper, -line.amount) },
      settling(key, {
        lines: [line.id],
        ties: [{ entry: key, account }],
        settles: [{ paper: paper.id, amount: line.amount }],
      }),
    ],
  };
};
