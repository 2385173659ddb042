import { toDecimal } from '../../money/formatAmount.ts';
import type { BankStatement } from '../bankFile.ts';
import { element, escapeXml } from './xml.ts';

const HEADER =
  '<?xml version="1.0" encoding="UTF-8" standalone="no"?>\n' +
  '<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>';
const ACCOUNT_TYPES = { current: 'CHECKING', savings: 'SAVINGS' } as const;

/**
 * Writes statements as OFX 2.2. What the format has no place for (running balances, opening balance,
 * value dates) is left out.
 *
 * @param currency ISO 4217, where a statement names none
 */
export function writeOfx(statements: readonly BankStatement[], currency: string): string {
  const banks = statements.filter(({ kind }) => kind !== 'card');
  const cards = statements.filter(({ kind }) => kind === 'card');
  const sets = [
    banks.length > 0
      ? `<BANKMSGSRSV1>\n${banks.map((each) => `<STMTTRNRS>${statementOf(each, currency)}</STMTTRNRS>`).join('\n')}\n</BANKMSGSRSV1>`
      : '',
    cards.length > 0
      ? `<CREDITCARDMSGSRSV1>\n${cards.map((each) => `<CCSTMTTRNRS>${statementOf(each, currency)}</CCSTMTTRNRS>`).join('\n')}\n</CREDITCARDMSGSRSV1>`
      : '',
  ];
  return `${HEADER}\n<OFX>\n${sets.filter(Boolean).join('\n')}\n</OFX>\n`;
}

function statementOf(statement: BankStatement, fallback: string): string {
  const isCard = statement.kind === 'card';
  const currency = statement.currency ?? fallback;
  const tag = isCard ? 'CCSTMTRS' : 'STMTRS';
  const account = element('ACCTID', statement.account ?? '');
  const from = isCard
    ? `<CCACCTFROM>${account}</CCACCTFROM>`
    : `<BANKACCTFROM>${element('BANKID', statement.bank ?? '')}${account}` +
      `${element('ACCTTYPE', ACCOUNT_TYPES[statement.kind === 'savings' ? 'savings' : 'current'])}</BANKACCTFROM>`;
  const lines = statement.lines.map((line) => {
    const fields = [
      element('TRNTYPE', line.type && /^[A-Z]+$/.test(line.type) ? line.type : 'OTHER'),
      element('DTPOSTED', compact(line.date)),
      element('TRNAMT', toDecimal(line.amount, currency)),
      line.bankId === null ? '' : element('FITID', line.bankId),
      line.chequeNumber === null ? '' : element('CHECKNUM', line.chequeNumber),
      line.reference === null ? '' : element('REFNUM', line.reference),
      line.description === '' ? '' : element('NAME', line.description),
    ];
    return `<STMTTRN>${fields.join('')}</STMTTRN>`;
  });
  const dates =
    (statement.from === null ? '' : element('DTSTART', compact(statement.from))) +
    (statement.to === null ? '' : element('DTEND', compact(statement.to)));
  const closing =
    statement.closing === null
      ? ''
      : `<LEDGERBAL>${element('BALAMT', toDecimal(statement.closing, currency))}` +
        `${element('DTASOF', compact(statement.closingDate ?? statement.to ?? ''))}</LEDGERBAL>`;
  return (
    `<${tag}>${element('CURDEF', escapeXml(currency))}${from}\n<BANKTRANLIST>${dates}\n` +
    `${lines.join('\n')}\n</BANKTRANLIST>${closing}</${tag}>`
  );
}

function compact(date: string): string {
  return date.replaceAll('-', '');
}
