import { SaxesParser } from 'saxes';
import { problem } from '../problems.ts';
import type { OfxBuilder } from './ofxBuilder.ts';

/** No bank file nests deeper than this. */
const DEEPEST = 64;
/** Fed to the tokeniser piece by piece, so that a refusal stops it soon. */
const PIECE = 65_536;

/**
 * Reads the XML of OFX 2.x. A document type or an entity declaration is refused; nothing external
 * is ever loaded.
 *
 * @param text the whole file
 * @param builder takes the elements
 */
export function readOfxXml(text: string, builder: OfxBuilder): void {
  const parser = new SaxesParser();
  let depth = 0;
  let content = '';
  let isWhole = false;
  let isRefused = false;

  function refuse(
    code: 'FILE_XML_ENTITIES' | 'FILE_TOO_DEEP' | 'FILE_XML_BROKEN',
    detail = '',
  ): void {
    if (isRefused) return;
    isRefused = true;
    const params = { detail, limit: DEEPEST };
    builder.problems.push(problem('fatal', code, params, { line: parser.line }));
  }

  parser.on('doctype', () => refuse('FILE_XML_ENTITIES'));
  parser.on('opentag', (node) => {
    if (isRefused) return;
    depth += 1;
    content = '';
    if (depth > DEEPEST) refuse('FILE_TOO_DEEP');
    else builder.open(node.name, parser.line);
  });
  parser.on('text', (piece) => {
    content += piece;
  });
  parser.on('cdata', (piece) => {
    content += piece;
  });
  parser.on('closetag', (node) => {
    if (isRefused) return;
    depth -= 1;
    const value = content.trim();
    content = '';
    if (value !== '') builder.value(node.name, value, parser.line);
    builder.close(node.name);
    if (node.name === 'OFX') isWhole = true;
  });
  parser.on('error', (error) => {
    const isCutOff = !isWhole && depth > 0 && /unclosed tag|unexpected end/i.test(error.message);
    if (!isCutOff) refuse('FILE_XML_BROKEN', error.message.replace(/^\d+:\d+:\s*/, ''));
  });

  for (let at = 0; at < text.length && !isRefused; at += PIECE) {
    parser.write(text.slice(at, at + PIECE));
  }
  if (!isRefused) parser.close();
  builder.end(isWhole || isRefused, parser.line);
}
