import type { CalendarDate } from '@zubrell/core/dates/calendarDate';
import { toDecimal } from '@zubrell/core/money/formatAmount';
import type { Business, MadeBankAccount } from './business.ts';
import type { MadeLine } from './makeLines.ts';

/** A statement to be written as its bank would hand it out. */
export interface StatementText {
  readonly fileName: string;
  readonly text: string;
}

/**
 * Writes the lines of one bank account as a file in that bank's format.
 *
 * @param opening the balance before the first line
 * @param closingDate the day whose end the closing balance is of
 */
export function writeStatement(
  business: Business,
  account: MadeBankAccount,
  lines: readonly MadeLine[],
  { opening, closingDate }: { readonly opening: number; readonly closingDate: CalendarDate },
): string {
  const amount = (minor: number) => toDecimal(minor, business.currency);
  const closing = lines.reduce((sum, line) => sum + line.amount, opening);
  switch (account.format) {
    case 'ofx2':
    case 'ofx1':
      return ofx(business, account, lines, { closing: amount(closing), closingDate });
    case 'csvSemicolon': {
      let balance = opening;
      const { holders } = account;
      const rows = lines.map((line) => {
        balance += line.amount;
        const holder = holders?.find(({ buys }) => buys.test(line.wording))?.name ?? '';
        const texts = [dayFirst(line.date), line.wording, line.id];
        const figures = [comma(amount(line.amount)), comma(amount(balance))];
        return [...texts, ...figures, ...(holders ? [holder] : [])].join(';');
      });
      const headings = `Booked;Text;Reference;Amount EUR;Balance${holders ? ';Cardholder' : ''}`;
      return `${[headings, ...rows].join('\r\n')}\r\n`;
    }
    case 'csvComma': {
      let balance = opening;
      const rows = lines.map((line) => {
        balance += line.amount;
        const out = line.amount < 0 ? amount(-line.amount) : '';
        const into = line.amount < 0 ? '' : amount(line.amount);
        return [line.date, `"${line.wording}"`, out, into, amount(balance)].join(',');
      });
      return `${['Date,Details,Paid out,Paid in,Balance', ...rows].join('\n')}\n`;
    }
  }
}

function ofx(
  business: Business,
  account: MadeBankAccount,
  lines: readonly MadeLine[],
  { closing, closingDate }: { readonly closing: string; readonly closingDate: CalendarDate },
): string {
  const amount = (minor: number) => toDecimal(minor, business.currency);
  const isXml = account.format === 'ofx2';
  const leaf = (tag: string, value: string) => {
    const text = value.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
    return isXml ? `<${tag}>${text}</${tag}>` : `<${tag}>${text}`;
  };
  const compact = (date: string) => date.replaceAll('-', '');
  const records = lines.map((line) =>
    [
      '<STMTTRN>',
      leaf('TRNTYPE', line.amount < 0 ? 'DEBIT' : 'CREDIT'),
      leaf('DTPOSTED', compact(line.date)),
      leaf('TRNAMT', amount(line.amount)),
      leaf('FITID', line.id),
      ...(line.reference === null ? [] : [leaf('REFNUM', line.reference)]),
      leaf('NAME', line.wording),
      '</STMTTRN>',
    ].join(isXml ? '' : '\n'),
  );
  const header = isXml
    ? '<?xml version="1.0" encoding="UTF-8"?>\n<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>'
    : 'OFXHEADER:100\nDATA:OFXSGML\nVERSION:102\nSECURITY:NONE\nENCODING:USASCII\nCHARSET:1252\nCOMPRESSION:NONE\nOLDFILEUID:NONE\nNEWFILEUID:NONE\n';
  const first = lines[0]?.date ?? closingDate;
  return [
    header,
    '<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS>',
    leaf('CURDEF', business.currency),
    '<BANKACCTFROM>',
    leaf('BANKID', 'WICKALDER'),
    leaf('ACCTID', account.number ?? ''),
    leaf('ACCTTYPE', account.kind === 'savings' ? 'SAVINGS' : 'CHECKING'),
    '</BANKACCTFROM><BANKTRANLIST>',
    leaf('DTSTART', compact(first)),
    leaf('DTEND', compact(closingDate)),
    ...records,
    '</BANKTRANLIST><LEDGERBAL>',
    leaf('BALAMT', closing),
    leaf('DTASOF', compact(closingDate)),
    '</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>',
    '',
  ].join('\n');
}

function dayFirst(date: string): string {
  const [year, month, day] = date.split('-');
  return `${day}.${month}.${year}`;
}

function comma(amount: string): string {
  return amount.replace('.', ',');
}
