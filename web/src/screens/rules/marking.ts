import { plainWording } from '@zubrell/core/text/plainWording';

/** A piece of a wording, and whether a rule looked for it. */
export interface Piece {
  readonly key: number;
  readonly text: string;
  readonly isMarked: boolean;
}

/**
 * A wording in pieces, those marked that are one of some words; `*` and `?` stand for any letters and for
 * one.
 *
 * @example markedPieces('TIDEMARK-FRT 7', ['tidemark']) // TIDEMARK is marked, -FRT 7 is not
 */
export function markedPieces(text: string, words: readonly string[]): readonly Piece[] {
  const tests = words.map(testOf);
  const pieces: Piece[] = [];
  let offset = 0;
  for (const each of text.split(/([^\p{L}\p{M}\p{N}]+)/u)) {
    const plain = plainWording(each);
    const isMarked = plain !== '' && tests.some((test) => test(plain));
    const last = pieces.at(-1);
    if (last && last.isMarked === isMarked) {
      pieces[pieces.length - 1] = { ...last, text: last.text + each };
    } else if (each !== '') pieces.push({ key: offset, text: each, isMarked });
    offset += each.length;
  }
  return pieces;
}

function testOf(word: string): (plain: string) => boolean {
  if (!/[*?]/.test(word)) {
    const wanted = new Set(plainWording(word).split(' '));
    return (plain) => wanted.has(plain);
  }
  const pattern = word
    .split(/([*?])/)
    .map((piece) => (piece === '*' ? '.*' : piece === '?' ? '.' : plainWording(piece)))
    .join('');
  const whole = new RegExp(`^${pattern}$`, 'u');
  return (plain) => whole.test(plain);
}
