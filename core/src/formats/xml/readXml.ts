import { SaxesParser } from 'saxes';
import type { Problem } from '../bankFile.ts';
import { problem } from '../problems.ts';

/** No bank file nests deeper than this. */
const DEEPEST = 64;
/** No text of a bank file is longer than this. */
const LONGEST_TEXT = 1_000_000;
/** Fed to the tokeniser piece by piece, so that a refusal stops it soon. */
const PIECE = 65_536;

/** Takes the elements of an XML document in order, by their names without prefix. */
export interface XmlHandler {
  /** An element begins. @param line its line in the file, from 1 */
  open(name: string, attributes: Readonly<Record<string, string>>, line: number): void;
  /** An element's text, trimmed and not empty. Comes before its `close`. */
  value(name: string, text: string, line: number): void;
  close(name: string): void;
}

/** How reading an XML document ended. */
export interface XmlEnding {
  /** Whether it was refused or broken; the problem is noted. */
  readonly isRefused: boolean;
  /** The last line read. */
  readonly line: number;
}

/** Reads an XML document piece by piece. */
export interface XmlReader {
  write(text: string): void;
  end(): XmlEnding;
}

/** Thrown out of the parser, so that it stops at once: nothing after a refusal is of use. */
class Refused extends Error {}

/**
 * Starts reading an XML document. A document type or an entity declaration is refused, so are deep
 * nesting and endless texts; nothing external is ever loaded. A document that just ends is not
 * refused: the handler sees it by the elements left open.
 *
 * @param problems takes what is wrong with it
 */
export function createXmlReader(handler: XmlHandler, problems: Problem[]): XmlReader {
  const parser = new SaxesParser();
  /** The names of the elements that are open. */
  const open: string[] = [];
  let content = '';
  let isRefused = false;

  function refuse(
    code: 'FILE_XML_ENTITIES' | 'FILE_TOO_DEEP' | 'FILE_XML_BROKEN' | 'FILE_FIELD_TOO_LONG',
    detail = '',
  ): never {
    isRefused = true;
    problems.push(problem('fatal', code, { detail, limit: DEEPEST }, { line: parser.line }));
    throw new Refused();
  }

  /** Lets the parser go on, until it refuses the document. */
  function parse(work: () => void): void {
    try {
      work();
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
    }
  }

  function take(piece: string): void {
    if (content.length > LONGEST_TEXT) refuse('FILE_FIELD_TOO_LONG');
    else content += piece;
  }

  parser.on('doctype', () => refuse('FILE_XML_ENTITIES'));
  parser.on('opentag', ({ name: whole, attributes }) => {
    const name = localName(whole);
    open.push(name);
    content = '';
    if (open.length > DEEPEST) refuse('FILE_TOO_DEEP');
    else handler.open(name, attributes, parser.line);
  });
  parser.on('text', take);
  parser.on('cdata', take);
  parser.on('closetag', () => {
    const name = open.pop() ?? '';
    const value = content === '' ? '' : content.trim();
    content = '';
    if (value !== '') handler.value(name, value, parser.line);
    handler.close(name);
  });
  parser.on('error', (error) => {
    const isCutOff = open.length > 0 && /unclosed tag|unexpected end/i.test(error.message);
    if (!isCutOff) refuse('FILE_XML_BROKEN', error.message.replace(/^\d+:\d+:\s*/, ''));
  });

  return {
    write(text) {
      for (let at = 0; at < text.length && !isRefused; at += PIECE) {
        const piece = text.length <= PIECE ? text : text.slice(at, at + PIECE);
        parse(() => parser.write(piece));
      }
    },
    end() {
      if (!isRefused) parse(() => parser.close());
      return { isRefused, line: parser.line };
    },
  };
}

/** A name without its prefix. */
function localName(name: string): string {
  const colon = name.indexOf(':');
  return colon < 0 ? name : name.slice(colon + 1);
}
