import type { StepDone } from '@zubrell/contract/common';
import type { DecisionKind, LinesDone } from '@zubrell/contract/desk';
import type { BatchLines } from '@zubrell/contract/intake';
import type { Decision, Entry, Leg, Line, Patch } from './model.ts';
import type { Move, Moved, WalkedBank, Walker } from './walker.ts';

/** Lines: how they come in, move, are decided about and open again. */

const SEEN = { seenStep: Number.MAX_SAFE_INTEGER };
const WORDS = ['TIDEMARK', 'SALTMARSH MKT', 'PENHALLOW CLAY', 'ORRIN BELL', 'GORSEFIELD GAS'];

/** An amount that a line may have: any, or what something in the books waits for. */
function amountFor({ dice, model }: Walker, { account }: WalkedBank): number {
  const sign = dice.chance(0.35) ? 1 : -1;
  const wanted = [
    ...model.waiting(account).map(({ amount }) => amount),
    ...model.papers().map((paper) => model.openOf(paper)),
    ...[...model.state.decisions.values()].flatMap(({ settles }) =>
      settles.map(({ amount }) => -amount),
    ),
  ].filter((amount) => amount !== 0);
  if (wanted.length > 0 && dice.chance(0.5)) {
    const amount = dice.pick(wanted);
    return dice.chance(0.3) ? amount + dice.pick([-150, 150]) || amount : amount;
  }
  return sign * dice.whole(1, dice.chance(0.2) ? 9 : 40_000);
}

/** A line as the model keeps it. */
function kept(walker: Walker, line: Line): Line {
  walker.model.lines.set(line.id, line);
  return line;
}

export const handLine: Move = async (walker) => {
  const { mo, dice, model } = walker;
  const bank = walker.oneOf(walker.banksHere());
  if (bank === null) return null;
  // Now and then the same as one that is here: it may be a second copy.
  const twin = dice.chance(0.12)
    ? walker.oneOf(model.openLines().filter((line) => line.bank === bank.id))
    : null;
  const date = twin?.date ?? walker.day();
  const amount = twin?.amount ?? amountFor(walker, bank);
  const text = walker.fresh(dice.pick(WORDS));
  const done = await mo.addLine(bank.id, date, amount, text);
  kept(walker, { id: done.id, bank: bank.id, date, amount, text });
  return { ...done, patches: [{ in: 'own', key: done.id, value: true }] };
};

export const file: Move = async (walker) => {
  const { client, mo, dice, model, books } = walker;
  const bank = walker.oneOf(walker.banksHere());
  if (bank === null) return null;
  const fresh = Array.from({ length: dice.whole(1, 4) }, () => ({
    date: walker.day(),
    amount: amountFor(walker, bank),
    text: walker.fresh(dice.pick(WORDS)),
  }));
  // A file often brings again what an earlier one brought.
  const sent = [...model.lines.values()].filter(
    ({ id, bank: own }) =>
      own === bank.id && model.isHere(id) && [...fileLines(walker)].includes(id),
  );
  const again = dice.chance(0.4) ? walker.someOf(sent, 3) : [];
  const rows = [...again, ...fresh].sort((a, b) => (a.date < b.date ? -1 : 1));
  const batch = await books.keep(`${walker.fresh('file')}.ofx`, ofxWithoutBalance(rows), {
    bankAccountId: bank.id,
    confirmNumber: true,
    withOpening: false,
  });
  if (batch.status !== 'kept') throw new Error(`a file was refused: ${batch.refusal?.code}`);
  const { items } = await client.get<BatchLines>(`${mo.path}/batches/${batch.id}/lines`);
  const ids = items.map(({ lineId }) => lineId);
  for (const { lineId, date, amount, description: text } of items) {
    if (!model.lines.has(lineId)) kept(walker, { id: lineId, bank: bank.id, date, amount, text });
  }
  // One that was kept apart is the same in everything as the line it was taken for: either may be found.
  const sentAgain = new Set(again.map(({ text }) => text));
  const twice = items.filter(({ description, folded }) => sentAgain.has(description) && !folded);
  if (twice.length > 0) throw new Error(`${twice.length} lines came in twice`);
  const [step] = await mo.steps();
  return {
    step: step?.no ?? null,
    words: step?.words ?? '',
    patches: [{ in: 'batches', key: batch.id, value: ids }],
  };
};

/** The lines that files brought, whatever became of the files. */
function* fileLines({ model }: Walker): Iterable<string> {
  for (const { patches } of model.steps) {
    for (const patch of patches) if (patch.in === 'batches' && patch.value) yield* patch.value;
  }
}

function ofxWithoutBalance(
  rows: readonly { readonly date: string; readonly amount: number; readonly text: string }[],
): string {
  const body = rows
    .map(
      ({ date, amount, text }) =>
        `<STMTTRN><TRNTYPE>OTHER</TRNTYPE><DTPOSTED>${date.replaceAll('-', '')}</DTPOSTED>` +
        `<TRNAMT>${(amount / 100).toFixed(2)}</TRNAMT><FITID>${text.replaceAll(' ', '')}</FITID>` +
        `<NAME>${text}</NAME></STMTTRN>`,
    )
    .join('\n');
  return `<?xml version="1.0" encoding="UTF-8"?>
<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>
<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR</CURDEF>
<BANKACCTFROM><BANKID>WICK</BANKID><ACCTID>4471</ACCTID><ACCTTYPE>CHECKING</ACCTTYPE></BANKACCTFROM>
<BANKTRANLIST>${body}</BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>`;
}

export const takeBack: Move = async (walker) => {
  const { mo, model } = walker;
  const batchId = walker.oneOf([...model.state.batches.keys()]);
  if (batchId === null) return null;
  const only = (model.state.batches.get(batchId) ?? []).filter(
    (id) =>
      !model.state.own.has(id) &&
      [...model.state.batches].every(([key, ids]) => key === batchId || !ids.includes(id)),
  );
  const decided = only.filter((id) => model.decisionOf(id) !== null);
  // What was kept apart of it goes with it, unless it is decided.
  const apart = [...walker.apart].flatMap(([id, batch]) =>
    batch === batchId && model.state.own.has(id) && model.decisionOf(id) === null ? id : [],
  );
  const going = [...only.filter((id) => !decided.includes(id)), ...apart];
  // Copies whose original goes are no copies any more.
  const orphaned = [...model.state.decisions.values()].filter(({ rests }) =>
    going.some((id) => rests.includes(`line ${id}`)),
  );
  const done = await mo.takeBack(batchId, 'stay');
  return {
    ...done,
    patches: [
      ...orphaned.map(({ key }): Patch => ({ in: 'decisions', key, value: undefined })),
      { in: 'batches', key: batchId, value: undefined },
      ...decided.map((key): Patch => ({ in: 'own', key, value: true })),
      ...apart.map((key): Patch => ({ in: 'own', key, value: undefined })),
    ],
  };
};

/** A row of a file that was taken for a line that was here becomes a line of its own. */
export const keepApart: Move = async (walker) => {
  const { client, mo, model } = walker;
  const batchId = walker.oneOf([...model.state.batches.keys()]);
  if (batchId === null) return null;
  const path = `${mo.path}/batches/${batchId}/lines`;
  const rows = async () => (await client.get<BatchLines>(path)).items;
  const row = walker.oneOf(
    (await rows()).filter(
      ({ folded, apartLineId }) => folded?.isHereWithout && apartLineId === null,
    ),
  );
  if (row === null) return null;
  const { lineId, date, amount, description: text } = row;
  const done = await client.send<StepDone>('POST', `${path}/${lineId}/keep-apart`);
  const id = (await rows()).find((each) => each.lineId === lineId)?.apartLineId ?? '';
  const bank = model.lines.get(lineId)?.bank ?? '';
  kept(walker, { id, bank, date, amount, text });
  walker.apart.set(id, batchId);
  return {
    ...done,
    patches: [
      { in: 'own', key: id, value: true },
      // It is the batch's and goes with it.
      { in: 'things', key: `apart ${id}`, value: `batches ${batchId}` },
    ],
  };
};

/** Tax within an amount at 20 %, the half cent away from zero. */
const taxWithin = (gross: number) =>
  gross === 0 ? 0 : Math.sign(gross) * Math.round(Math.abs(gross) / 6);

/** The legs of money on a bank account that is coded to one account. */
export function codedLegs(
  walker: Walker,
  amount: number,
  account: string,
  isTaxed: boolean,
): readonly Leg[] {
  if (!isTaxed) return [{ account, amount: 0 - amount }];
  const tax = taxWithin(-amount);
  const isIncome = walker.setup.accounts.find(({ id }) => id === account)?.type === 'income';
  const own = [
    { account, amount: 0 - amount - tax },
    { account: walker.account(isIncome ? '2220' : '2210'), amount: tax },
  ];
  return own.filter((leg) => leg.amount !== 0 || leg.account === account);
}

interface Coded {
  readonly legs: (amount: number) => readonly Leg[];
  readonly parts: readonly object[];
  readonly uses: readonly string[];
}

/** Something that a line may be coded to. */
export function someCoding(walker: Walker): Coded {
  const { dice } = walker;
  const { account, isTaxed, uses } = walker.codable();
  const hasTax = isTaxed && dice.chance(0.4);
  const whole = {
    accountId: account,
    taxCodeId: hasTax ? walker.tax : null,
    share: { kind: 'rest' },
    tax: null,
  };
  if (dice.chance(0.8)) {
    return { legs: (amount) => codedLegs(walker, amount, account, hasTax), parts: [whole], uses };
  }
  const other = walker.codable();
  const first = dice.whole(-50, 50);
  return {
    legs: (amount) => [
      { account: other.account, amount: 0 - first },
      ...codedLegs(walker, amount - first, account, hasTax),
    ],
    parts: [
      {
        accountId: other.account,
        taxCodeId: null,
        share: { kind: 'fixed', amount: first },
        tax: null,
      },
      whole,
    ],
    uses: [...uses, ...other.uses],
  };
}

/** What posting a line puts into the books. */
function posted(
  walker: Walker,
  line: Line,
  step: number,
  { legs, rests }: { readonly legs: readonly Leg[]; readonly rests: readonly string[] },
): Patch {
  const { account } = walker.bankOf(line.bank);
  const key = `posted ${line.id} ${step}`;
  const entry: Entry = {
    key,
    date: line.date,
    legs: [{ account, amount: line.amount }, ...legs],
    waits: 'half',
    uses: rests,
  };
  walker.model.made.set(key, entry);
  const decision: Decision = {
    key,
    kind: 'posted',
    weighs: true,
    lines: [line.id],
    ties: [{ entry: key, account }],
    settles: [],
    credit: null,
    rests,
  };
  return { in: 'decisions', key, value: decision };
}

export const post: Move = async (walker) => {
  const { model } = walker;
  const lines = walker.someOf(model.openLines(), 3);
  if (lines.length === 0) return null;
  const payeeId = walker.payee();
  const { legs, parts, uses } = someCoding(walker);
  const done = await walker.post<LinesDone>('/lines/post', {
    target: { lineIds: lines.map(({ id }) => id) },
    coding: { payeeId, note: null, parts },
    isNew: true,
    ...SEEN,
  });
  const rests = [...uses, ...(payeeId ? [`payee ${payeeId}`] : [])];
  const own = lines.filter(({ id }) => done.done.includes(id));
  return withStep(done, (step) =>
    own.map((line) => posted(walker, line, step, { legs: legs(line.amount), rests })),
  );
};

/** What a command on lines did, if anything. */
function withStep(done: LinesDone, patches: (step: number) => readonly Patch[]): Moved {
  return { ...done, patches: done.step === null ? [] : patches(done.step) };
}

export const transfer: Move = async (walker) => {
  const { mo, model } = walker;
  const line = walker.oneOf(model.openLines());
  const others = walker.banksHere().filter(({ id }) => id !== line?.bank);
  const other = walker.oneOf(others);
  if (!line || !other) return null;
  const done = await mo.post([line.id], mo.codingTo(other.account));
  const legs = [{ account: other.account, amount: -line.amount }];
  const moved = withStep(done, (step) => [
    posted(walker, line, step, { legs, rests: [`bank ${other.id}`] }),
  ]);
  if (done.step !== null) {
    const { entryId } = await mo.line(line.id);
    walker.realIds.set(`posted ${line.id} ${done.step}`, entryId ?? '');
  }
  return moved;
};

export const recode: Move = async (walker) => {
  const { mo, model } = walker;
  const all = [...model.state.decisions.values()].filter(({ kind }) => kind === 'posted');
  const decision = walker.oneOf(all);
  const line = model.lines.get(decision?.lines[0] ?? '');
  if (!decision || !line) return null;
  const { account, uses } = walker.codable();
  const done = await mo.recode([line.id], { accountId: account, taxCodeId: null, payeeId: null });
  return withStep(done, (step) => [
    { in: 'decisions', key: decision.key, value: undefined },
    posted(walker, line, step, {
      legs: codedLegs(walker, line.amount, account, false),
      rests: uses,
    }),
  ]);
};

export const reopen: Move = async (walker) => {
  const { mo, model } = walker;
  const decided = [...model.state.decisions.values()].filter(({ lines }) => lines.length > 0);
  const decision = walker.oneOf(decided);
  const [lineId] = decision?.lines ?? [];
  if (!decision || lineId === undefined) return null;
  const done = await mo.reopen([lineId]);
  const copies = decision.rests.flatMap((what) =>
    what.startsWith('copy ') ? [what.slice('copy '.length)] : [],
  );
  return withStep(done, () => [
    { in: 'decisions', key: decision.key, value: undefined },
    ...copies.map((key): Patch => ({ in: 'own', key, value: undefined })),
  ]);
};

/** What keeping lines out of the books puts there. */
function keptOut(
  lines: readonly string[],
  step: number,
  weighs: boolean,
  rests: readonly string[] = [],
): Patch {
  const key = `kept out ${lines.join()} ${step}`;
  const value: Decision = {
    key,
    kind: 'excluded',
    weighs,
    lines,
    ties: [],
    settles: [],
    credit: null,
    rests,
  };
  return { in: 'decisions', key, value };
}

const KINDS = ['excluded', 'deleted'] as const satisfies readonly DecisionKind[];

export const secondCopy: Move = async (walker) => {
  const { dice, model } = walker;
  const copy = walker.oneOf(model.openLines());
  const original = walker.oneOf(
    [...model.lines.values()].filter(
      ({ id, bank, amount, date }) =>
        id !== copy?.id &&
        bank === copy?.bank &&
        amount === copy.amount &&
        date === copy.date &&
        model.isHere(id) &&
        model.decisionOf(id)?.kind !== 'excluded',
    ),
  );
  if (!copy || !original) return null;
  const done = await walker.post<LinesDone>('/lines/exclude', {
    target: { lineIds: [copy.id] },
    reason: 'secondCopy',
    as: dice.pick(KINDS),
    originals: { [copy.id]: original.id },
    ...SEEN,
  });
  return withStep(done, (step) => [keptOut([copy.id], step, false, [`line ${original.id}`])]);
};

/** A bank's error and its correction, one after the other or held together by pairing. */
export const bankError: Move = async (walker) => {
  const { dice, mo, model } = walker;
  const error = walker.oneOf(model.openLines());
  if (!error) return null;
  const correction = model
    .openLines()
    .find(({ bank, amount }) => bank === error.bank && amount === -error.amount);
  if (!correction) {
    const text = walker.fresh('CORRECTION');
    const done = await mo.addLine(error.bank, error.date, -error.amount, text);
    const { bank, date, amount } = error;
    kept(walker, { id: done.id, bank, date, amount: -amount, text });
    return { ...done, patches: [{ in: 'own', key: done.id, value: true }] };
  }
  const ids = [error.id, correction.id];
  const done = dice.chance(0.5)
    ? await mo.pair(ids, [])
    : await walker.post<LinesDone>('/lines/exclude', {
        target: { lineIds: ids },
        reason: 'bankError',
        as: dice.pick(KINDS),
        ...SEEN,
      });
  return withStep(done, (step) => [keptOut(ids, step, true)]);
};

export const moveLine: Move = async (walker) => {
  const { client, mo, model } = walker;
  const line = walker.oneOf(model.openLines());
  const other = walker.oneOf(walker.banksHere().filter(({ id }) => id !== line?.bank));
  if (!line || !other) return null;
  const done = await mo.move([line.id], other.id);
  if (done.step === null) return withStep(done, () => []);
  const { lines } = await client.get<{ lines: { id: string }[] }>(
    `${mo.path}/found-lines?search=${encodeURIComponent(line.text)}`,
  );
  const copy = lines.find(({ id }) => !model.lines.has(id));
  if (!copy) throw new Error(`the copy of ${line.text} is not found`);
  kept(walker, { ...line, id: copy.id, bank: other.id });
  return withStep(done, (step) => [
    keptOut([line.id], step, false, [`copy ${copy.id}`, `bank ${other.id}`]),
    { in: 'own', key: copy.id, value: true },
  ]);
};

/** Asks somebody about a line; the answer is no money. */
export const ask: Move = async (walker) => {
  const line = walker.oneOf(walker.model.openLines());
  if (!line) return null;
  const done = await walker.mo.ask([line.id]);
  const key = `asked ${line.id}`;
  return withStep(done, () => [{ in: 'things', key, value: line.id }]);
};

/** Posts what somebody was asked about to suspense. */
export const suspend: Move = async (walker) => {
  const { model } = walker;
  const asked = new Set(walker.things('asked'));
  const line = walker.oneOf(model.openLines().filter(({ id }) => asked.has(id)));
  if (!line) return null;
  const done = await walker.post<LinesDone & StepDone>('/lines/suspend', {
    target: { lineIds: [line.id] },
    ...SEEN,
  });
  const legs = [{ account: walker.account('9000'), amount: -line.amount }];
  return withStep(done, (step) => [posted(walker, line, step, { legs, rests: [] })]);
};
