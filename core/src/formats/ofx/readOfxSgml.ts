import { problem } from '../problems.ts';
import type { TextReader } from '../textReader.ts';
import type { OfxBuilder } from './ofxBuilder.ts';

const ENTITIES: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  quot: '"',
  apos: "'",
  nbsp: ' ',
};

/** No element's text is longer than this. */
const LONGEST_TEXT = 1_000_000;

/**
 * Reads the SGML of OFX 1.x, where an element that holds text need not be closed. The header before
 * the first element is passed over.
 *
 * @param builder takes the elements
 */
export function createOfxSgmlReader(builder: OfxBuilder): TextReader {
  let rest = '';
  let line = 1;
  let hasBegun = false;
  let isWhole = false;
  let isRefused = false;

  /** Takes the elements of `text` that are there with all their content; gives what is left. */
  function take(text: string, isLast: boolean): string {
    let at = hasBegun ? 0 : text.search(/<OFX>/i);
    if (at < 0) return text;
    hasBegun = true;
    let counted = 0;
    let newline = text.indexOf('\n');
    while (at >= 0) {
      const end = text.indexOf('>', at);
      const next = end < 0 ? -1 : text.indexOf('<', end);
      if (end < 0 || (next < 0 && !isLast)) break;
      while (newline >= 0 && newline < at) {
        line += 1;
        newline = text.indexOf('\n', newline + 1);
      }
      counted = at;
      const tag = text
        .slice(at + 1, end)
        .trim()
        .toUpperCase();
      if (tag.startsWith('/')) {
        builder.close(tag.slice(1));
        if (tag === '/OFX') isWhole = true;
      } else if (!tag.startsWith('!') && !tag.startsWith('?')) {
        builder.open(tag, line);
        const content = text.slice(end + 1, next < 0 ? undefined : next).trim();
        if (content !== '') builder.value(tag, decoded(content), line);
      }
      at = next;
    }
    const left = at < 0 ? text.length : at;
    for (let seen = text.indexOf('\n', counted); seen >= 0 && seen < left; ) {
      line += 1;
      seen = text.indexOf('\n', seen + 1);
    }
    return text.slice(left);
  }

  return {
    write(text) {
      if (isRefused) return;
      rest = take(rest + text, false);
      if (rest.length <= LONGEST_TEXT) return;
      isRefused = true;
      builder.problems.push(problem('fatal', 'FILE_FIELD_TOO_LONG', {}, { line }));
    },
    end() {
      if (!isRefused) take(rest, true);
      builder.end(isWhole || isRefused, line);
    },
  };
}

function decoded(text: string): string {
  if (!text.includes('&')) return text;
  return text.replace(/&(?:#(\d{1,6})|(\w{2,5}));/g, (whole, number?: string, name?: string) => {
    if (number === undefined) return ENTITIES[name?.toLowerCase() ?? ''] ?? whole;
    return Number(number) <= 0x10ffff ? String.fromCodePoint(Number(number)) : whole;
  });
}
