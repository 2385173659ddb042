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

const EXCLAMATION = 33;
/** More different tags than OFX has. */
const MOST_NAMES = 1_000;
/** No element's text is longer than this. */
const LONGEST_TEXT = 1_000_000;

/**
 * Reads OFX: the SGML of 1.x, where an element that holds text need not be closed, and the XML of 2.x,
 * which many banks write alike. The header before the first element is passed over. No entity is ever
 * declared or expanded, and nothing external loaded.
 *
 * @param builder takes the elements
 */
export function createOfxReader(builder: OfxBuilder): TextReader {
  let rest = '';
  let line = 1;
  let hasBegun = false;
  let isWhole = false;
  let isRefused = false;
  const nameFor = createNames();

  function refuse(code: 'FILE_FIELD_TOO_LONG' | 'FILE_XML_ENTITIES'): void {
    isRefused = true;
    builder.problems.push(problem('fatal', code, {}, { line }));
  }

  /** Takes the elements of `text` that are there with all their content; gives what is left. */
  function take(text: string, isLast: boolean): string {
    let at = hasBegun ? 0 : text.search(/<OFX[\s>]/i);
    if (at < 0) return text;
    if (!hasBegun && /<!(DOCTYPE|ENTITY)/i.test(text.slice(0, at))) {
      line += newlinesIn(text.slice(0, text.search(/<!(DOCTYPE|ENTITY)/i)));
      refuse('FILE_XML_ENTITIES');
      return '';
    }
    hasBegun = true;
    let counted = 0;
    let newline = text.indexOf('\n');
    while (at >= 0) {
      const end = text.indexOf('>', at);
      const next = end < 0 ? -1 : nextTag(text, end + 1);
      if (end < 0 || (next < 0 && !isLast)) break;
      while (newline >= 0 && newline < at) {
        line += 1;
        newline = text.indexOf('\n', newline + 1);
      }
      counted = at;
      const tag = nameFor(text.slice(at + 1, end));
      if (tag.startsWith('/')) {
        builder.close(tag.slice(1));
        if (tag === '/OFX') isWhole = true;
      } else if (!tag.startsWith('!') && !tag.startsWith('?')) {
        builder.open(tag, line);
        const content = plainText(text.slice(end + 1, next < 0 ? undefined : next));
        if (content !== '') builder.value(tag, content, line);
      }
      at = next;
    }
    const left = at < 0 ? text.length : at;
    line += newlinesIn(text.slice(counted, left));
    return text.slice(left);
  }

  return {
    write(text) {
      if (isRefused) return;
      rest = take(rest + text, false);
      if (rest.length > LONGEST_TEXT) refuse('FILE_FIELD_TOO_LONG');
    },
    end() {
      if (!isRefused) take(rest, true);
      builder.end(isWhole || isRefused, line);
    },
  };
}

/** Where the next tag begins, beyond comments and literal text; -1 where none does, yet. */
function nextTag(text: string, from: number): number {
  let at = text.indexOf('<', from);
  while (at >= 0 && text.charCodeAt(at + 1) === EXCLAMATION) {
    const close = text.startsWith('<![CDATA[', at)
      ? ']]>'
      : text.startsWith('<!--', at)
        ? '-->'
        : '';
    if (close === '') return at;
    const end = text.indexOf(close, at);
    if (end < 0) return -1;
    at = text.indexOf('<', end + close.length);
  }
  return at;
}

/** Gives the names of tags; a file has few different ones, and very many of each. */
function createNames(): (tag: string) => string {
  const known = new Map<string, string>();
  return (tag) => {
    const before = known.get(tag);
    if (before !== undefined) return before;
    const name = nameOf(tag);
    if (known.size < MOST_NAMES) known.set(tag, name);
    return name;
  };
}

/** A tag's name in capitals, without attributes. */
function nameOf(tag: string): string {
  const name = tag.trim().toUpperCase();
  const space = name.search(/[\s/]/);
  return space <= 0 ? name : name.slice(0, space);
}

function newlinesIn(text: string): number {
  let count = 0;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) count += 1;
  return count;
}

/** An element's text: entities resolved, comments left out, literal parts as they are. */
function plainText(content: string): string {
  if (!content.includes('<')) return decoded(content).trim();
  return content
    .replaceAll(/<!--[\s\S]*?-->/g, '')
    .split(/<!\[CDATA\[([\s\S]*?)\]\]>/)
    .map((part, index) => (index % 2 === 0 ? decoded(part) : part))
    .join('')
    .trim();
}

function decoded(text: string): string {
  if (!text.includes('&')) return text;
  return text.replace(
    /&(?:#(\d{1,7}|x[\da-f]{1,6})|(\w{2,5}));/gi,
    (whole, number?: string, name?: string) => {
      if (number === undefined) return ENTITIES[name?.toLowerCase() ?? ''] ?? whole;
      const code = Number(number.replace(/^x/i, '0x'));
      return code <= 0x10ffff ? String.fromCodePoint(code) : whole;
    },
  );
}
