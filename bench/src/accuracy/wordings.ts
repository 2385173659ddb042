import type { Dice } from '@zubrell/core/testing/dice';
import { oneOf, type Tongue } from './names.ts';
import type { Deal } from './payees.ts';

/** What a bank sends of a line. */
export interface Wording {
  readonly description: string;
  readonly reference: string;
  /** How much of the name is left where it was cut off; null where all of it is there. */
  readonly cutName: string | null;
}

/** How a bank words a deal. */
export type Bank = (
  throws: Dice,
  tongue: Tongue,
  of: { readonly deal: Deal; readonly name: string; readonly date: string },
) => Wording;

/** A name as it arrives: sometimes misspelt, without spaces, turned round. */
function spelt(throws: Dice, { payee }: Deal, name: string): string {
  const { chance, whole, pick } = throws;
  let said = name;
  if (payee.isPerson && chance(0.3)) said = said.split(' ').reverse().join(' ');
  if (payee.isPerson && chance(0.2)) said = said.replace(/^(\S)\S+/, '$1');
  if (chance(0.03)) {
    const at = whole(1, said.length - 2);
    said = pick([
      said.slice(0, at) + said.slice(at + 1),
      said.slice(0, at) + said.charAt(at) + said.slice(at),
    ]);
  }
  if (chance(0.04)) said = said.replace(' ', '');
  return said;
}

const shortDate = (date: string) => `${date.slice(8)}${date.slice(5, 7)}`;
const dottedDate = (date: string) => `${date.slice(8)}.${date.slice(5, 7)}.`;

/** Everything in one line, upper case, cut. */
export const terse =
  (cut: number): Bank =>
  (throws, tongue, { deal, name, date }) => {
    const { chance, digits, pick, whole } = throws;
    const { payee, word } = deal;
    const said = spelt(throws, deal, name);
    const lead = deal.kind === 'refund' ? tongue.refund : word ? `${word}` : '';
    const front =
      payee.channel === 'card'
        ? pick(['', '', `${oneOf(throws, tongue.card)} `, `${pick(['PYLN*', 'KLK *', 'ZTL-'])}`])
        : `${oneOf(throws, deal.amount > 0 ? tongue.credit : payee.channel === 'debit' ? tongue.debit : tongue.transfer)} `;
    const tail =
      payee.channel === 'card'
        ? pick([
            ` ${digits(4)}`,
            ` ${payee.town}`,
            ` ${digits(5)} ${payee.town}`,
            ` ${dottedDate(date)}`,
          ])
        : payee.channel === 'debit'
          ? ` ${chance(0.7) ? payee.contract : digits(8)}`
          : ` ${pick([`REF ${digits(whole(4, 8))}`, `INV ${digits(4)}`, shortDate(date)])}`;
    const text = `${front}${said}${lead ? ` ${lead}` : ''}${tail}`;
    const nameLeft = cut - front.length;
    return {
      description: text.slice(0, cut).trimEnd(),
      reference: '',
      cutName: nameLeft < said.length ? said.slice(0, Math.max(0, nameLeft)) : null,
    };
  };

/** Kind of payment in the description, payee and purpose in the reference. */
export const formal: Bank = (throws, tongue, { deal, name, date }) => {
  const { digits, pick, chance, letters } = throws;
  const { payee, word } = deal;
  const kind =
    deal.amount > 0
      ? tongue.credit
      : payee.channel === 'card'
        ? tongue.card
        : payee.channel === 'debit'
          ? tongue.debit
          : tongue.transfer;
  const said = spelt(throws, deal, name);
  const purpose = [
    deal.kind === 'refund' ? tongue.refund : '',
    word ?? '',
    payee.channel === 'debit' ? `MREF ${payee.contract}` : `EREF ${letters(2)}${digits(9)}`,
    chance(0.4) ? `${pick(['RG', 'NR', 'INV'])}${digits(6)}` : '',
    chance(0.2) ? `${payee.town} ${dottedDate(date)} ${digits(2)}:${digits(2)}` : '',
  ]
    .filter(Boolean)
    .join(' ');
  return { description: oneOf(throws, kind), reference: `${said} ${purpose}`, cutName: null };
};

/** Payee in the description, purpose with order numbers and foreign amounts in the reference. */
export const chatty: Bank = (throws, tongue, { deal, name, date }) => {
  const { digits, letters, chance, pick, whole } = throws;
  const { payee, word } = deal;
  const said = spelt(throws, deal, name);
  const styled = chance(0.5)
    ? said
    : said.toLowerCase().replace(/(^|\s)\S/g, (a) => a.toUpperCase());
  const foreign = chance(0.12)
    ? ` ${pick(['USD', 'GBP', 'CHF'])} ${whole(4, 900)}.${digits(2)} @ 1.0${digits(3)}`
    : '';
  const extra = [
    word ?? '',
    deal.kind === 'refund' ? tongue.refund.toLowerCase() : '',
    chance(0.5) ? `order ${letters(3)}-${digits(7)}` : `${payee.town}`,
    chance(0.3) ? date : '',
  ]
    .filter(Boolean)
    .join(', ');
  return { description: `${styled}${foreign}`, reference: extra, cutName: null };
};

/** A short code, the name cut at will and a purpose; the day of the purchase in front, what allows it in the reference. */
export const coded =
  (cut: number): Bank =>
  (throws, tongue, { deal, name, date }) => {
    const { chance, digits, letters, pick, whole } = throws;
    const { payee, word } = deal;
    const said = spelt(throws, deal, name);
    const short = said.slice(0, whole(cut, cut + 12)).trimEnd();
    const cutName = short.length < said.length ? short : null;
    const purpose = [
      word ?? '',
      deal.kind === 'refund' ? tongue.refund : '',
      payee.channel === 'debit'
        ? payee.contract
        : `${chance(0.6) ? oneOf(throws, tongue.remarks) : 'INV'}${pick([' ', ''])}${digits(4)}`,
    ];
    if (payee.channel !== 'card') {
      const code = deal.amount > 0 ? 'CR' : payee.channel === 'debit' ? 'DD' : 'BP';
      return { description: spaced([code, short, ...purpose]), reference: '', cutName };
    }
    const isBooked = chance(0.7);
    return {
      description: isBooked
        ? spaced([dottedDate(date), short, word ?? '', payee.town.slice(0, whole(5, 12))])
        : spaced([`POS ${digits(4)}`, short, word ?? '']),
      reference: isBooked ? `${pick(['AUTH', 'APPR'])} ${digits(6)}` : letters(2),
      cutName,
    };
  };

/** The kind and a running number in the description; payee, purpose and marks between bars in the reference. */
export const tagged: Bank = (throws, tongue, { deal, name }) => {
  const { chance, digits, pick } = throws;
  const { payee, word } = deal;
  const kind = deal.amount > 0 ? tongue.credit : tongue[payee.channel];
  const said = spelt(throws, deal, name);
  const marks = [
    payee.channel === 'debit'
      ? `/MNDT/${payee.contract}`
      : `/NOTE/${oneOf(throws, tongue.remarks)}`,
    `/E2E/${digits(4)}-${digits(5)}`,
    word ? `/PURP/${word}` : '',
    deal.kind === 'refund' ? `/RTN/${tongue.refund}` : '',
  ].filter(Boolean);
  const inOrder = chance(0.5) ? marks : marks.reverse();
  return {
    description: `${oneOf(throws, kind)} ${digits(3)}`,
    reference: `${pick(['/NAME/', ''])}${said} ${inOrder.join(' ')}`,
    cutName: null,
  };
};

/** All that a bank knows, in one long text: card, terminal, place, time, country; what the payer wrote stands last. */
export const long: Bank = (throws, tongue, { deal, name, date }) => {
  const { digits, chance, pick } = throws;
  const { payee, word } = deal;
  const said = spelt(throws, deal, name);
  const isCard = payee.channel === 'card';
  const kind = deal.amount > 0 ? tongue.credit : tongue[payee.channel];
  const description = spaced([
    oneOf(throws, kind),
    isCard ? `${digits(6)}XXXXXX${payee.contract.slice(0, 4)}` : `ACC ${digits(10)}`,
    isCard && chance(0.5) ? `${date} ${digits(2)}:${digits(2)}:${digits(2)}` : '',
    said,
    payee.town,
    isCard ? pick(['EUR', 'GBP', 'SEK']) : `REF ${digits(12)}`,
    oneOf(throws, tongue.remarks),
    deal.kind === 'refund' ? tongue.refund : '',
    word ?? '',
  ]);
  return { description, reference: chance(0.5) ? digits(8) : '', cutName: null };
};

/** Hardly more than the name, with codes joined to it. */
export const bare: Bank = (throws, tongue, { deal, name }) => {
  const { digits, letters, pick } = throws;
  const said = spelt(throws, deal, name);
  const code = pick(['', '', `*${letters(2)}${digits(2)}${letters(1)}`, ` ${digits(5)}`]);
  return {
    description: spaced([
      said + code,
      deal.kind === 'refund' ? tongue.refund : '',
      pick(['', deal.payee.town]),
    ]),
    reference: deal.word ?? '',
    cutName: null,
  };
};

const spaced = (parts: readonly string[]) => parts.filter(Boolean).join(' ');

/** One bank until a month, another from then on. */
export const changing =
  (before: Bank, after: Bank, from: string): Bank =>
  (throws, tongue, { deal, name, date }) =>
    (date < from ? before : after)(throws, tongue, { deal, name, date });
