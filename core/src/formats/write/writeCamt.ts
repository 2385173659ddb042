import { addDays, type CalendarDate } from '../../dates/calendarDate.ts';
import { toDecimal } from '../../money/formatAmount.ts';
import type { Minor } from '../../money/minor.ts';
import type { BankLine, BankStatement } from '../bankFile.ts';
import { element, escapeXml } from './xml.ts';

const NAMESPACE = 'urn:iso:std:iso:20022:tech:xsd:camt.053.001.08';

/**
 * Writes statements as camt.053 (ISO 20022, version 8).
 *
 * @param currency ISO 4217, where a statement names none
 */
export function writeCamt(statements: readonly BankStatement[], currency: string): string {
  const body = statements.map((statement, index) => statementOf(statement, index, currency));
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n<Document xmlns="${NAMESPACE}"><BkToCstmrStmt>\n` +
    `${body.join('\n')}\n</BkToCstmrStmt></Document>\n`
  );
}

function statementOf(statement: BankStatement, index: number, fallback: string): string {
  const currency = statement.currency ?? fallback;
  const account =
    statement.account === null
      ? ''
      : `<Acct><Id><Othr>${element('Id', statement.account)}</Othr></Id>${element('Ccy', currency)}` +
        `${statement.bank === null ? '' : `<Svcr><FinInstnId>${element('BICFI', statement.bank)}</FinInstnId></Svcr>`}</Acct>`;
  const period =
    statement.from === null || statement.to === null
      ? ''
      : `<FrToDt>${element('FrDtTm', `${statement.from}T00:00:00`)}${element('ToDtTm', `${statement.to}T23:59:59`)}</FrToDt>`;
  const opened = statement.from === null ? null : addDays(statement.from, -1);
  return [
    `<Stmt>${element('Id', String(index + 1))}${period}${account}`,
    balance('OPBD', statement.opening, opened, currency),
    balance('CLBD', statement.closing, statement.closingDate, currency),
    ...statement.lines.map((line) => entry(line, currency)),
    '</Stmt>',
  ]
    .filter(Boolean)
    .join('\n');
}

function signed(amount: Minor, currency: string): string {
  const size = toDecimal(Math.abs(amount), currency);
  const side = amount < 0 ? 'DBIT' : 'CRDT';
  return `<Amt Ccy="${escapeXml(currency)}">${size}</Amt>${element('CdtDbtInd', side)}`;
}

function balance(
  code: string,
  amount: Minor | null,
  date: CalendarDate | null,
  currency: string,
): string {
  if (amount === null) return '';
  const dated = date === null ? '' : `<Dt>${element('Dt', date)}</Dt>`;
  return `<Bal><Tp><CdOrPrtry>${element('Cd', code)}</CdOrPrtry></Tp>${signed(amount, currency)}${dated}</Bal>`;
}

/** Who is on the other side: the creditor of what goes out, the debtor of what comes in. */
function otherSide({ payee, amount }: BankLine): string {
  if (payee === null) return '';
  const side = amount < 0 ? 'Cdtr' : 'Dbtr';
  return `<RltdPties><${side}><Pty>${element('Nm', payee)}</Pty></${side}></RltdPties>`;
}

function entry(line: BankLine, currency: string): string {
  const references = [
    line.bankId === null ? '' : element('AcctSvcrRef', line.bankId),
    line.reference === null ? '' : element('EndToEndId', line.reference),
    line.chequeNumber === null ? '' : element('ChqNb', line.chequeNumber),
  ].join('');
  const details =
    (references === '' ? '' : `<Refs>${references}</Refs>`) +
    otherSide(line) +
    (line.description === '' ? '' : `<RmtInf>${element('Ustrd', line.description)}</RmtInf>`);
  return [
    `<Ntry>${signed(line.amount, currency)}`,
    `<Sts>${element('Cd', line.isPending ? 'PDNG' : 'BOOK')}</Sts>`,
    `<BookgDt>${element('Dt', line.date)}</BookgDt>`,
    line.valueDate === null ? '' : `<ValDt>${element('Dt', line.valueDate)}</ValDt>`,
    details === '' ? '' : `<NtryDtls><TxDtls>${details}</TxDtls></NtryDtls>`,
    '</Ntry>',
  ].join('');
}
