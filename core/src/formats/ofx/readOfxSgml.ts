import type { OfxBuilder } from './ofxBuilder.ts';

const ENTITIES: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  quot: '"',
  apos: "'",
  nbsp: ' ',
};

/**
 * Reads the SGML of OFX 1.x, where an element that holds text need not be closed.
 *
 * @param text the whole file, header included
 * @param builder takes the elements
 */
export function readOfxSgml(text: string, builder: OfxBuilder): void {
  const lineAt = createLineCounter(text);
  let at = text.search(/<OFX>/i);
  let isWhole = false;
  while (at >= 0) {
    const end = text.indexOf('>', at);
    if (end < 0) break;
    const next = text.indexOf('<', end);
    const tag = text
      .slice(at + 1, end)
      .trim()
      .toUpperCase();
    const place = lineAt(at);
    if (tag.startsWith('/')) {
      builder.close(tag.slice(1));
      if (tag === '/OFX') isWhole = true;
    } else if (!tag.startsWith('!') && !tag.startsWith('?')) {
      builder.open(tag, place);
      const content = text.slice(end + 1, next < 0 ? undefined : next).trim();
      if (content !== '') builder.value(tag, decoded(content), place);
    }
    at = next;
  }
  builder.end(isWhole, lineAt(text.length));
}

/** Tells the line of an offset, for offsets that only grow. */
function createLineCounter(text: string): (offset: number) => number {
  let line = 1;
  let next = text.indexOf('\n');
  return (offset) => {
    while (next >= 0 && next < offset) {
      line += 1;
      next = text.indexOf('\n', next + 1);
    }
    return line;
  };
}

function decoded(text: string): string {
  if (!text.includes('&')) return text;
  return text.replace(/&(?:#(\d{1,6})|(\w{2,5}));/g, (whole, number?: string, name?: string) => {
    if (number === undefined) return ENTITIES[name?.toLowerCase() ?? ''] ?? whole;
    return Number(number) <= 0x10ffff ? String.fromCodePoint(Number(number)) : whole;
  });
}
