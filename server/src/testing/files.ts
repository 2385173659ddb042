/** One line of a made-up statement; the amount as a decimal string. */
export interface MadeLine {
  readonly date: string;
  readonly amount: string;
  readonly text: string;
  readonly id?: string;
}

/** An OFX 2 file of one current account. */
export function ofxFile(
  lines: readonly MadeLine[],
  closing: string,
  account = '4471',
  currency = 'EUR',
): string {
  const body = lines
    .map(
      (line, index) =>
        `<STMTTRN><TRNTYPE>OTHER</TRNTYPE><DTPOSTED>${line.date.replaceAll('-', '')}</DTPOSTED>` +
        `<TRNAMT>${line.amount}</TRNAMT><FITID>${line.id ?? `F${index}`}</FITID>` +
        `<NAME>${line.text}</NAME></STMTTRN>`,
    )
    .join('\n');
  const last = lines.at(-1)?.date.replaceAll('-', '') ?? '';
  return `<?xml version="1.0" encoding="UTF-8"?>
<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>
<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>${currency}</CURDEF>
<BANKACCTFROM><BANKID>WICK</BANKID><ACCTID>${account}</ACCTID><ACCTTYPE>CHECKING</ACCTTYPE></BANKACCTFROM>
<BANKTRANLIST>
${body}
</BANKTRANLIST>
<LEDGERBAL><BALAMT>${closing}</BALAMT><DTASOF>${last}</DTASOF></LEDGERBAL>
</STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>
`;
}
