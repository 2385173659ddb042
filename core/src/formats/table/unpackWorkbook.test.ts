import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../../errors.ts';
import { checkSheet } from './checkSheet.ts';
import { unpackWorkbook } from './unpackWorkbook.ts';

const SHEET =
  '<worksheet><sheetData><row r="1"><c r="A1"><v>1</v></c></row></sheetData></worksheet>';
const PARTS = {
  '[Content_Types].xml': strToU8('<Types/>'),
  'xl/workbook.xml': strToU8('<workbook/>'),
  'xl/worksheets/sheet1.xml': strToU8(SHEET),
  'xl/media/image1.png': new Uint8Array(5_000_000),
};
const whole = zipSync(PARTS);

/** The places at which a signature stands. */
function placesOf(bytes: Uint8Array, signature: readonly number[]): number[] {
  const places: number[] = [];
  for (let at = 0; at + 4 <= bytes.length; at += 1) {
    if (signature.every((byte, no) => bytes[at + no] === byte)) places.push(at);
  }
  return places;
}
const contents = (bytes: Uint8Array) => placesOf(bytes, [0x50, 0x4b, 1, 2]);

/** The archive with a number in its table of contents changed, for one of its parts. */
function changed(part: number, offset: number, value: number): Uint8Array {
  const bytes = whole.slice();
  const at = (contents(bytes)[part] ?? 0) + offset;
  new DataView(bytes.buffer).setUint32(at, value, true);
  return bytes;
}

const outcomeOf = (work: () => unknown): string => {
  try {
    work();
    return 'taken';
  } catch (error) {
    return error instanceof ZubrellError ? error.code : String(error);
  }
};

const refusalOf = (bytes: Uint8Array): string => outcomeOf(() => unpackWorkbook(bytes));

describe('a workbook', () => {
  it('is unpacked as far as its cells go; pictures stay packed', () => {
    const unpacked = unpackWorkbook(whole);
    expect(Object.keys(unpacked).sort()).toEqual(Object.keys(PARTS).slice(0, 3).sort());
    expect(new TextDecoder().decode(unpacked['xl/worksheets/sheet1.xml'])).toBe(SHEET);
  });

  it('is refused where its table of contents lies about what comes out', () => {
    const sheet = 2;
    expect(refusalOf(changed(sheet, 24, 10))).toBe('FILE_ZIP_BROKEN');
    expect(refusalOf(changed(sheet, 24, 500))).toBe('FILE_ZIP_BROKEN');
    expect(refusalOf(changed(sheet, 24, 4_000_000_000))).toBe('FILE_ZIP_BOMB');
  });

  it('is refused where parts lie over each other', () => {
    const first = new DataView(whole.buffer).getUint32((contents(whole)[1] ?? 0) + 42, true);
    expect(refusalOf(changed(2, 42, first))).toBe('FILE_ZIP_BROKEN');
  });

  it('is refused where something lies beside its table of contents', () => {
    const hidden = zipSync({ 'xl/worksheets/sheet2.xml': strToU8(SHEET) });
    const local = hidden.subarray(0, contents(hidden)[0]);
    const bytes = new Uint8Array(local.length + whole.length);
    bytes.set(local);
    bytes.set(whole, local.length);
    const view = new DataView(bytes.buffer);
    for (const at of contents(bytes).slice(-4)) {
      view.setUint32(at + 42, view.getUint32(at + 42, true) + local.length, true);
    }
    const end = placesOf(bytes, [0x50, 0x4b, 5, 6])[0] ?? 0;
    view.setUint32(end + 16, view.getUint32(end + 16, true) + local.length, true);
    expect(refusalOf(bytes)).toBe('FILE_ZIP_BROKEN');
  });

  it('is refused where a part is encrypted or packed in an unknown way', () => {
    expect(refusalOf(changed(2, 8, 1 | (8 << 16)))).toBe('FILE_ZIP_BROKEN');
    expect(refusalOf(changed(2, 8, 12 << 16))).toBe('FILE_ZIP_BROKEN');
  });

  it('that is damaged anywhere is refused with words, or read: never more than that', () => {
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.nat(255), (at, byte) => {
        const bytes = whole.slice();
        bytes[at] = byte;
        expect(['taken', 'FILE_ZIP_BROKEN', 'FILE_ZIP_BOMB', 'FILE_UNKNOWN']).toContain(
          refusalOf(bytes),
        );
      }),
    );
  });
});

describe('a sheet', () => {
  const check = (rows: string) =>
    outcomeOf(() => checkSheet(strToU8(`<worksheet><sheetData>${rows}</sheetData></worksheet>`)));
  const far = (count: number) =>
    Array.from({ length: count }, (_, no) => `<row r="${no + 1}"><c r="XFD${no + 1}"/></row>`).join(
      '',
    );

  it('may have a few cells far out, and not many', () => {
    expect(check(far(100))).toBe('taken');
    expect(check(far(101))).toBe('FILE_SHEET_TOO_LARGE');
  });

  it('may not have rows beyond the last, and has to be XML', () => {
    expect(check('<row r="1048577"/>')).toBe('FILE_SHEET_TOO_LARGE');
    expect(check('<row')).toBe('FILE_ZIP_BROKEN');
  });
});
