import type { AccountType } from '../../ledger/kinds.ts';
import { plainWording } from '../../text/plainWording.ts';

/** A kind of business or payment that says what account a line usually goes to. */
export interface Trade {
  /** As it is named in a sentence. */
  readonly name: string;
  readonly type: Extract<AccountType, 'expense' | 'income'>;
  /** Words that an account for it has in its name or among the words for what goes there; the first counts most. */
  readonly accountWords: readonly string[];
}

interface Known extends Trade {
  /** Whole words of a wording that say so. */
  readonly words: readonly string[];
  /** Merchant category codes (ISO 18245), single ones and ranges. */
  readonly codes: readonly (readonly [from: number, to: number])[];
}

/** trade | account words | words of the wording | merchant category codes */
const OUT = `
bank charges|CHARGES BANK FEE|FEE FEES CHARGE CHARGES COMMISSION GEBUEHR GEBUHR ENTGELT FRAIS COMISION KOSTEN|
insurance|INSURANCE POLICY|INSURANCE VERSICHERUNG ASSURANCE SEGURO VERZEKERING|5960 6300
rent|RENT LEASE PREMISES|RENT LEASE MIETE LOYER ALQUILER HUUR|6513
energy and water|ENERGY ELECTRICITY GAS WATER|ELECTRICITY GAS WATER STROM WASSER ENERGIE ELECTRICITE AGUA LUZ|4900
phone and data|PHONE MOBILE INTERNET|PHONE MOBILE BROADBAND TELEFON INTERNET TELEPHONE TELEFONO|4812 4814 4816
freight and post|FREIGHT POSTAGE COURIER|COURIER FREIGHT POSTAGE PARCEL PAKET FRACHT COLIS ENVIO|4214-4215 9402
office goods and software|OFFICE STATIONERY SOFTWARE|STATIONERY SOFTWARE HOSTING DOMAIN|5111 5943 5045 5734 5817-5818 7372
fuel and travel|TRAVEL FUEL|FUEL PETROL DIESEL PARKING TAXI TRAIN HOTEL TANKSTELLE CARBURANT GASOLINERA|3000-3999 4011 4111-4112 4121 4131 4411 4511 5541-5542 5552 7011 7512 7523
meals|MEALS REFRESHMENTS FOOD RESTAURANT|RESTAURANT CAFE GASTHAUS CAFETERIA|5811-5814
repairs|REPAIRS MAINTENANCE|REPAIR REPAIRS REPARATUR REPARATION REPARACION|7531 7534-7535 7538 7542 7622-7623 7629 7692 7699
advertising|ADVERTISING MARKETING|ADVERTISING WERBUNG PUBLICITE PUBLICIDAD|7311 7333
professional fees|PROFESSIONAL ACCOUNTANT LAWYER|ACCOUNTANT LAWYER SOLICITOR NOTARY STEUERBERATER NOTAIRE ASESORIA|8111 8931 8999
building and raw materials|MATERIALS RAW|TIMBER LUMBER|5211 5231 5039 5251 5072`;
const IN = `
interest received|INTEREST RECEIVED|INTEREST ZINSEN INTERETS INTERESES RENTE|`;

const rows = (text: string, type: Trade['type']): Known[] =>
  text
    .trim()
    .split('\n')
    .map((row) => {
      const [name = '', accountWords = '', words = '', codes = ''] = row.split('|');
      return {
        name,
        type,
        accountWords: accountWords.split(' '),
        words: words.split(' '),
        codes: codes
          .split(' ')
          .filter((code) => code !== '')
          .map((code) => {
            const [from = '', to = from] = code.split('-');
            return [Number(from), Number(to)] as const;
          }),
      };
    });
const OUTGOING = rows(OUT, 'expense');
const INCOMING = rows(IN, 'income');

/** All trades that are known. */
export const trades: readonly Trade[] = [...OUTGOING, ...INCOMING];

/** What of a line can say what trade it is of. */
export interface TradeFacts {
  readonly amount: number;
  readonly description: string;
  readonly reference: string | null;
  readonly payee: string | null;
  /** Merchant category code. */
  readonly category: string | null;
}

/** A trade, with the code or word that says so. */
export interface FoundTrade {
  readonly trade: Trade;
  readonly by: { readonly code: string } | { readonly word: string };
}

/**
 * The trade that a line's merchant category code names, else a plain word of its wording. Money in is never
 * a cost.
 *
 * @example tradeOf a line out “KESTREL INSURANCE 4471” is insurance, by the word INSURANCE
 */
export function tradeOf(line: TradeFacts): FoundTrade | null {
  const possible = line.amount < 0 ? OUTGOING : INCOMING;
  const { category } = line;
  if (category !== null && /^\d{4}$/.test(category)) {
    const code = Number(category);
    const trade = possible.find(({ codes }) =>
      codes.some(([from, to]) => code >= from && code <= to),
    );
    if (trade) return { trade, by: { code: category } };
  }
  const text = [line.description, line.payee, line.reference].filter(Boolean).join(' ');
  const said = new Set(plainWording(text).split(' '));
  for (const trade of possible) {
    const word = trade.words.find((each) => said.has(each));
    if (word !== undefined) return { trade, by: { word } };
  }
  return null;
}

/** An account as trades look for it. */
export interface NamedAccount {
  readonly id: string;
  readonly type: AccountType;
  readonly name: string;
  readonly purpose: string;
}

/**
 * The account of a chart whose name, or the words for what goes there, fit a trade best.
 *
 * @returns null where none does
 */
export function accountForTrade(trade: Trade, accounts: readonly NamedAccount[]): string | null {
  let best: string | null = null;
  let most = 0;
  for (const { id, type, name, purpose } of accounts) {
    if (type !== trade.type) continue;
    const inName = new Set(plainWording(name).split(' '));
    const inPurpose = new Set(plainWording(purpose).split(' '));
    let score = 0;
    trade.accountWords.forEach((word, at) => {
      const weight = at === 0 ? 3 : 1;
      if (inName.has(word)) score += 3 * weight;
      else if (inPurpose.has(word)) score += weight;
    });
    if (score > most) {
      most = score;
      best = id;
    }
  }
  return best;
}
