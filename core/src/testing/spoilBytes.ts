import type { Next } from './numbersFrom.ts';

type Spoil = (bytes: Uint8Array, next: Next) => Uint8Array;

const text = (words: string): Uint8Array => new TextEncoder().encode(words);
const ENTITIES = text(
  '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c SYSTEM "file:///etc/passwd">]>&b;&c;&#0;&#x110000;&amp;',
);
const WORDS = [
  '</OFX>',
  '<STMTTRN>',
  '</Ntry>',
  '<Ntry>',
  ':61:',
  ':86:',
  '^',
  '"',
  ';;;;',
  ']]>',
  '<![CDATA[',
  '<!--',
  '\u0000',
  '99999999999999999999',
  '-',
  '1e309',
  '31.02.2026',
].map(text);
const LARGE = 200_000;

/** Ways to spoil a file. */
const spoils: readonly Spoil[] = [
  // One byte is another.
  (bytes, next) => {
    const spoiled = bytes.slice();
    if (spoiled.length > 0) spoiled[next(spoiled.length)] = next(256);
    return spoiled;
  },
  // A piece is missing.
  (bytes, next) => {
    const at = next(bytes.length + 1);
    return joined(bytes.subarray(0, at), bytes.subarray(at + next(200)));
  },
  // A piece comes twice.
  (bytes, next) => {
    const at = next(bytes.length + 1);
    return joined(bytes.subarray(0, at), bytes.subarray(Math.max(0, at - next(400))));
  },
  // It ends too soon.
  (bytes, next) => bytes.slice(0, next(bytes.length + 1)),
  // Something that means something stands where it should not.
  (bytes, next) => inserted(bytes, next, WORDS[next(WORDS.length)] ?? text('')),
  (bytes, next) => inserted(bytes, next, ENTITIES),
  // Null bytes, or any.
  (bytes, next) => inserted(bytes, next, new Uint8Array(next(64))),
  (bytes, next) =>
    inserted(
      bytes,
      next,
      Uint8Array.from({ length: next(64) }, () => next(256)),
    ),
  // A field without end.
  (bytes, next) => inserted(bytes, next, text('A'.repeat(next(LARGE)))),
  (bytes, next) => inserted(bytes, next, text('9'.repeat(next(LARGE)))),
  // Nested without end.
  (bytes, next) => inserted(bytes, next, text('<A>'.repeat(next(LARGE / 3)))),
  (bytes, next) => inserted(bytes, next, text('"'.repeat(next(LARGE)))),
  (bytes, next) => inserted(bytes, next, text('\n'.repeat(next(LARGE)))),
];

function inserted(bytes: Uint8Array, next: Next, piece: Uint8Array): Uint8Array {
  const at = next(bytes.length + 1);
  return joined(bytes.subarray(0, at), piece, bytes.subarray(at));
}

function joined(...pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/**
 * A file spoiled in one to four ways; sometimes nothing of it is left but random bytes.
 *
 * @returns at most about 1 MB more than the file
 */
export function spoilBytes(bytes: Uint8Array, next: Next): Uint8Array {
  if (next(40) === 0) return Uint8Array.from({ length: next(5_000) }, () => next(256));
  let spoiled = bytes;
  for (let times = next(4); times >= 0; times -= 1) {
    spoiled = spoils[next(spoils.length)]?.(spoiled, next) ?? spoiled;
  }
  return spoiled;
}
