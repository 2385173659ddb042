import { addDays } from '@zubrell/core/dates/calendarDate';
import type { NamedPayee } from '@zubrell/core/pair/namesIn';
import type { Candidate, CandidateKind, PairLine } from '@zubrell/core/pair/pairing';
import { type Dice, dice } from '@zubrell/core/testing/dice';
import { madeWord, oneOf, TONGUES, type Tongue } from '../accuracy/names.ts';

/** Lines and what stands in the books, with the truth. */
export interface Scene {
  readonly name: string;
  /** The code was never looked at with it while it was written. */
  readonly isKeptAside: boolean;
  readonly lines: readonly PairLine[];
  readonly candidates: readonly Candidate[];
  readonly payees: readonly NamedPayee[];
  /** What each line is, by ids of candidates; nothing for lines that are new. */
  readonly truth: ReadonlyMap<string, readonly string[]>;
}

/** A made-up name of a business: often with its trade, sometimes with its legal form. */
function tradingName(throws: Dice, tongue: Tongue): string {
  const trade = throws.chance(0.7) ? ` ${oneOf(throws, tongue.trades)}` : '';
  const form = throws.chance(0.4) ? ` ${oneOf(throws, tongue.forms)}` : '';
  return `${madeWord(throws, tongue)}${trade}${form}`;
}

/** What is on an entry or document. */
interface MadePaper {
  readonly date: string;
  readonly amount: number;
  readonly number?: string | null;
  readonly dueDays?: number;
}

/** Puts a scene together. */
class Stage {
  readonly lines: PairLine[] = [];
  readonly candidates: Candidate[] = [];
  readonly payees: NamedPayee[] = [];
  readonly truth = new Map<string, readonly string[]>();
  readonly throws: Dice;
  readonly tongue: Tongue;
  /** How much of a name the bank leaves. */
  readonly cut: number;

  constructor(seed: number, tongue: Tongue, cut: number) {
    this.throws = dice(seed);
    this.tongue = tongue;
    this.cut = cut;
  }

  payee(): NamedPayee {
    const payee = { id: `p${this.payees.length}`, name: tradingName(this.throws, this.tongue) };
    this.payees.push(payee);
    return payee;
  }

  candidate(
    kind: CandidateKind,
    payee: NamedPayee | null,
    { date, amount, number = null, dueDays }: MadePaper,
  ): Candidate {
    const isEntry = !['bill', 'invoice', 'creditNote', 'credit'].includes(kind);
    const made: Candidate = {
      id: `c${this.candidates.length}`,
      kind,
      bankAccountId: isEntry ? 'bank' : null,
      date,
      dueDate: dueDays === undefined ? null : addDays(date, dueDays),
      amount,
      payeeId: payee?.id ?? null,
      payee: payee?.name ?? null,
      number,
      pays: [],
    };
    this.candidates.push(made);
    return made;
  }

  line(
    date: string,
    amount: number,
    text: string,
    { is, ...more }: { readonly is: readonly Candidate[] } & Partial<PairLine>,
  ): void {
    const id = `l${this.lines.length}`;
    const line = { chequeNumber: null, usualPayeeId: null, ...more };
    this.lines.push({ id, bankAccountId: 'bank', date, amount, text, ...line });
    if (is.length > 0)
      this.truth.set(
        id,
        is.map((each) => each.id),
      );
  }

  /** A name as the bank has it: cut, sometimes without its legal form, a word lost or misspelt. */
  said({ name }: NamedPayee): string {
    const { chance, whole } = this.throws;
    let said = name.toUpperCase();
    if (chance(0.3)) said = said.split(' ').slice(0, -1).join(' ') || said;
    if (chance(0.03)) {
      const at = whole(1, Math.max(1, said.length - 2));
      said = said.slice(0, at) + said.slice(at + 1);
    }
    return said.slice(0, this.cut);
  }

  /** Days from what should be to what is: mostly few, sometimes many. */
  late(): number {
    const { chance, whole } = this.throws;
    if (chance(0.1)) return whole(10, 60);
    return chance(0.3) ? whole(-12, -1) : whole(0, 9);
  }

  scene(name: string, isKeptAside: boolean): Scene {
    const { lines, candidates, payees, truth } = this;
    return { name, isKeptAside, lines, candidates, payees, truth };
  }
}

const day = (throws: Dice) => addDays('2025-01-01', throws.whole(0, 500));

/** A wholesaler: invoices with numbers, most named in the wording, some paid together, some never. */
export function wholesaler(
  seed: number,
  size: number,
  tongue: Tongue,
  isKeptAside: boolean,
): Scene {
  const stage = new Stage(seed, tongue, 40);
  const { throws } = stage;
  const customers = Array.from({ length: 60 }, () => stage.payee());
  const suppliers = Array.from({ length: 40 }, () => stage.payee());
  const credit = () => oneOf(throws, tongue.credit);
  let number = 1_000;
  while (stage.lines.length < size) {
    const isIn = throws.chance(0.6);
    const payee = throws.pick(isIn ? customers : suppliers);
    const date = day(throws);
    const count = throws.chance(0.12) ? throws.whole(2, 4) : 1;
    const documents = Array.from({ length: count }, (_, at) => {
      number += throws.whole(1, 3);
      const amount = throws.chance(0.2)
        ? throws.whole(1, 40) * 5_000
        : throws.whole(2_000, 400_000);
      return stage.candidate(isIn ? 'invoice' : 'bill', payee, {
        date: addDays(date, at * 3),
        amount: isIn ? amount : -amount,
        number: isIn ? `R-${number}` : throws.digits(6),
        dueDays: throws.pick([14, 30, 30]),
      });
    });
    // Some are never paid, or not yet.
    if (throws.chance(0.15)) continue;
    const sum = documents.reduce((total, each) => total + each.amount, 0);
    const paid = addDays(documents.at(-1)?.dueDate ?? date, stage.late());
    const numbers = documents.map((each) => each.number?.replace(/\D/g, '')).join(' ');
    const isNamed = throws.chance(0.7);
    const lead = isIn ? credit() : oneOf(throws, tongue.transfer);
    const ref = isNamed ? `RE ${numbers}` : throws.chance(0.5) ? throws.digits(8) : '';
    stage.line(paid, sum, `${lead} ${stage.said(payee)} ${ref}`, { is: documents });
    // Beside these: card purchases and fees that are in no books, sometimes of an amount that is.
    while (throws.chance(0.35)) {
      const like = throws.chance(0.15)
        ? throws.pick(stage.candidates).amount
        : -throws.whole(300, 90_000);
      const other = { id: '', name: tradingName(throws, tongue) };
      stage.line(day(throws), like, `${oneOf(throws, tongue.card)} ${stage.said(other)}`, {
        is: [],
      });
    }
  }
  return stage.scene('wholesaler', isKeptAside);
}

/** A landlord or club: many pay the same amount every month; names, seldom numbers. */
export function landlord(seed: number, size: number, tongue: Tongue, isKeptAside: boolean): Scene {
  const stage = new Stage(seed, tongue, 27);
  const { throws } = stage;
  const rents = [45_000, 52_000, 61_500, 3_500];
  const tenants = Array.from({ length: 70 }, () => ({
    payee: stage.payee(),
    rent: throws.pick(rents),
    usual: throws.whole(-3, 6),
    names: throws.chance(0.95),
  }));
  let number = 20_000;
  for (let month = 0; stage.lines.length < size; month += 1) {
    const first = addDays('2020-01-01', month * 30);
    for (const { payee, rent, usual, names } of tenants) {
      number += 1;
      const due = stage.candidate('invoice', payee, {
        date: first,
        amount: rent,
        number: String(number),
        dueDays: 5,
      });
      if (throws.chance(0.04)) continue;
      const isLate = throws.chance(0.06);
      const paid = addDays(first, 5 + (isLate ? throws.whole(12, 40) : usual + throws.whole(0, 1)));
      const text = names
        ? `${oneOf(throws, tongue.credit)} ${stage.said(payee)} ${throws.chance(0.2) ? number : ''}`
        : `${oneOf(throws, tongue.credit)} ${throws.digits(9)}`;
      stage.line(paid, rent, text, { is: [due] });
    }
    for (let extra = 0; extra < 12; extra += 1) {
      const text = `${oneOf(throws, tongue.debit)} ${stage.said(throws.pick(stage.payees))}`;
      stage.line(
        addDays(first, throws.whole(0, 29)),
        throws.chance(0.2) ? throws.pick(rents) : -throws.whole(900, 30_000),
        text,
        { is: [] },
      );
    }
  }
  return stage.scene('landlord', isKeptAside);
}

/** A practice that writes cheques and enters payments and deposits by hand before the bank reports them. */
export function chequeWriter(
  seed: number,
  size: number,
  tongue: Tongue,
  isKeptAside: boolean,
): Scene {
  const stage = new Stage(seed, tongue, 32);
  const { throws } = stage;
  const payees = Array.from({ length: 80 }, () => stage.payee());
  let cheque = 400;
  while (stage.lines.length < size) {
    const payee = throws.pick(payees);
    const date = day(throws);
    const round = throws.chance(0.5);
    const amount = round ? throws.whole(2, 60) * 1_000 : throws.whole(1_500, 120_000);
    const kind = throws.pick(['cheque', 'cheque', 'payment', 'deposit', 'receipt'] as const);
    const isOut = kind === 'cheque' || kind === 'payment';
    if (kind === 'cheque') cheque += 1;
    const number = kind === 'cheque' ? String(cheque).padStart(6, '0') : null;
    const entry = stage.candidate(kind, kind === 'deposit' ? null : payee, {
      date,
      amount: isOut ? -amount : amount,
      number,
    });
    if (throws.chance(0.08)) continue;
    const days =
      kind === 'cheque'
        ? throws.chance(0.15)
          ? throws.whole(20, 60)
          : throws.whole(1, 15)
        : throws.chance(0.05)
          ? throws.whole(5, 9)
          : throws.whole(0, 3);
    const text =
      kind === 'cheque'
        ? `CHEQUE ${throws.chance(0.8) ? cheque : ''}`
        : kind === 'deposit'
          ? 'PAID IN AT BRANCH'
          : `${oneOf(throws, isOut ? tongue.transfer : tongue.credit)} ${stage.said(payee)} ${throws.digits(5)}`;
    const isTold = kind === 'cheque' && throws.chance(0.7);
    stage.line(addDays(date, days), entry.amount, text, {
      is: [entry],
      chequeNumber: isTold ? String(cheque) : null,
    });
    while (throws.chance(0.3)) {
      const other = throws.whole(2, 60) * 1_000;
      stage.line(
        day(throws),
        -other,
        `${oneOf(throws, tongue.card)} ${stage.said(throws.pick(payees))}`,
        { is: [] },
      );
    }
  }
  return stage.scene('cheque writer', isKeptAside);
}

/** Two own accounts: moves between them, entered or posted from the other side, many of round amounts. */
export function mover(seed: number, size: number, tongue: Tongue, isKeptAside: boolean): Scene {
  const stage = new Stage(seed, tongue, 35);
  const { throws } = stage;
  const payees = Array.from({ length: 30 }, () => stage.payee());
  const own = { id: 'own', name: 'Savings 4480' };
  stage.payees.push(own);
  while (stage.lines.length < size) {
    const date = addDays('2015-01-01', stage.lines.length >> 1);
    const amount = throws.chance(0.7) ? throws.whole(1, 30) * 10_000 : throws.whole(4_000, 250_000);
    const sign = throws.chance(0.5) ? 1 : -1;
    const half = stage.candidate('transfer', own, { date, amount: sign * amount });
    if (!throws.chance(0.05)) {
      const text = throws.pick([
        'TRANSFER FROM SAVINGS',
        'OWN ACCOUNT 4480',
        'PAYMENT THANK YOU',
        'TFR',
      ]);
      // Wordings that came with earlier moves are known.
      const usualPayeeId = text.startsWith('PAYMENT') ? 'own' : null;
      stage.line(addDays(date, throws.whole(0, 3)), half.amount, text, {
        is: [half],
        usualPayeeId,
      });
    }
    while (throws.chance(0.5)) {
      const other = throws.chance(0.3) ? throws.whole(1, 30) * 10_000 : throws.whole(400, 90_000);
      const text = `${oneOf(throws, tongue.card)} ${stage.said(throws.pick(payees))}`;
      stage.line(addDays(date, throws.whole(-5, 5)), -other, text, { is: [] });
    }
  }
  return stage.scene('mover', isKeptAside);
}

/** A builder in a language of its own: part payments, few numbers, names cut short, bills that recur in amount. */
export function builder(seed: number, size: number, tongue: Tongue, isKeptAside: boolean): Scene {
  const stage = new Stage(seed, tongue, 18);
  const { throws } = stage;
  const suppliers = Array.from({ length: Math.max(45, size / 40) }, () => ({
    payee: stage.payee(),
    usual: throws.chance(0.4) ? throws.whole(20, 400) * 100 : null,
  }));
  while (stage.lines.length < size) {
    const { payee, usual } = throws.pick(suppliers);
    const date = day(throws);
    const amount = usual ?? throws.whole(1_200, 600_000);
    const bill = stage.candidate('bill', payee, {
      date,
      amount: -amount,
      number: `${throws.letters(2)}${throws.digits(5)}`,
      dueDays: 21,
    });
    if (throws.chance(0.12)) continue;
    const paid = addDays(date, 21 + stage.late());
    const text = `${oneOf(throws, tongue.transfer)} ${stage.said(payee)} ${throws.chance(0.45) ? bill.number : throws.digits(4)}`;
    stage.line(paid, -amount, text, { is: [bill] });
    while (throws.chance(0.3)) {
      const { payee: shop } = throws.pick(suppliers);
      stage.line(
        day(throws),
        -throws.whole(500, 60_000),
        `${oneOf(throws, tongue.card)} ${stage.said(shop)}`,
        { is: [] },
      );
    }
  }
  return stage.scene('builder', isKeptAside);
}

/** A clinic: patients' bills by name, few amounts, some in instalments of a document, its own purchases on account. */
export function clinic(seed: number, size: number, tongue: Tongue, isKeptAside: boolean): Scene {
  const stage = new Stage(seed, tongue, 30);
  const { throws } = stage;
  const fees = [4_200, 6_850, 9_900, 12_350, 18_000];
  const patients = Array.from({ length: Math.max(120, size / 12) }, () => {
    const payee = {
      id: `p${stage.payees.length}`,
      name: `${oneOf(throws, tongue.first)} ${madeWord(throws, tongue)}`,
    };
    stage.payees.push(payee);
    return payee;
  });
  const suppliers = Array.from({ length: 50 }, () => stage.payee());
  let number = 300;
  while (stage.lines.length < size) {
    const date = day(throws);
    if (throws.chance(0.7)) {
      number += 1;
      const patient = throws.pick(patients);
      const invoice = stage.candidate('invoice', patient, {
        date,
        amount: throws.pick(fees),
        number: `K${number}`,
        dueDays: 14,
      });
      if (throws.chance(0.1)) continue;
      const said = throws.chance(0.5) ? `${number}` : throws.chance(0.3) ? throws.digits(7) : '';
      const name = throws.chance(0.93) ? stage.said(patient) : stage.said(throws.pick(patients));
      const text = `${oneOf(throws, tongue.credit)} ${name} ${said}`;
      stage.line(addDays(date, throws.whole(1, 25)), invoice.amount, text, { is: [invoice] });
    } else {
      const supplier = throws.pick(suppliers);
      const bill = stage.candidate('bill', supplier, {
        date,
        amount: -throws.whole(900, 150_000),
        number: throws.digits(7),
        dueDays: 30,
      });
      if (throws.chance(0.1)) continue;
      const text = `${oneOf(throws, tongue.debit)} ${stage.said(supplier)} ${throws.chance(0.5) ? bill.number : ''}`;
      stage.line(addDays(date, 30 + stage.late()), bill.amount, text, { is: [bill] });
    }
    if (throws.chance(0.3)) {
      const text = `${oneOf(throws, tongue.credit)} ${stage.said(throws.pick(patients))}`;
      stage.line(day(throws), throws.whole(3_000, 20_000), text, { is: [] });
    }
  }
  return stage.scene('clinic', isKeptAside);
}

/** All scenes: four the code was written with, and as many kept aside. */
export function scenes(size: number): readonly Scene[] {
  return [
    wholesaler(11, size, TONGUES.english, false),
    landlord(12, size, TONGUES.english, false),
    chequeWriter(13, size, TONGUES.english, false),
    mover(14, size, TONGUES.english, false),
    wholesaler(71, size, TONGUES.french, true),
    landlord(72, size, TONGUES.german, true),
    chequeWriter(73, size, TONGUES.german, true),
    builder(74, size, TONGUES.german, true),
    clinic(75, size, TONGUES.dutch, true),
    wholesaler(76, size, TONGUES.spanish, true),
  ];
}
