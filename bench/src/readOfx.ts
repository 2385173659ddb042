import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { SaxesParser } from 'saxes';
import { ratio } from './ratio.ts';

const LINES = 100_000;

/** Reading a large OFX file to lines, against the bare streaming XML tokeniser on the same bytes. */
export async function readOfx(): Promise<string> {
  const bytes = new TextEncoder().encode(largeFile());
  const { statements } = await readBankFile(bytes, { currency: 'EUR' });
  const count = statements[0]?.lines.length;
  if (count !== LINES) throw new Error(`read ${count} lines of ${LINES}`);
  return ratio({
    name: `reading OFX, ${LINES} lines, ${(bytes.length / 1e6).toFixed(1)} MB`,
    ours: () => readBankFile(bytes, { currency: 'EUR' }),
    peerName: 'bare tokeniser',
    peer: () => tokenise(bytes),
    aim: 2,
  });
}

function tokenise(bytes: Uint8Array): void {
  const parser = new SaxesParser();
  const decoder = new TextDecoder('utf-8');
  const piece = 65_536;
  for (let at = 0; at < bytes.length; at += piece) {
    parser.write(decoder.decode(bytes.subarray(at, at + piece), { stream: true }));
  }
  parser.close();
}

function largeFile(): string {
  const records = Array.from({ length: LINES }, (_, index) => {
    const day = String((index % 28) + 1).padStart(2, '0');
    const month = String((Math.floor(index / 28) % 12) + 1).padStart(2, '0');
    return (
      `<STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>2025${month}${day}</DTPOSTED>` +
      `<TRNAMT>-${((index % 90_000) / 100 + 1).toFixed(2)}</TRNAMT><FITID>F${index}</FITID>` +
      `<NAME>CRD PUR TIDEMARK FRT ${20_000 + (index % 999)}</NAME><MEMO>LYNMO ${index}</MEMO></STMTTRN>`
    );
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>
<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR</CURDEF>
<BANKACCTFROM><BANKID>WICK</BANKID><ACCTID>4471</ACCTID><ACCTTYPE>CHECKING</ACCTTYPE></BANKACCTFROM>
<BANKTRANLIST><DTSTART>20250101</DTSTART><DTEND>20251231</DTEND>
${records.join('\n')}
</BANKTRANLIST><LEDGERBAL><BALAMT>1.00</BALAMT><DTASOF>20251231</DTASOF></LEDGERBAL>
</STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>
`;
}
