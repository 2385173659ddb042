import { skipToken } from '@reduxjs/toolkit/query';
import type { Stack, StackParts } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useIsResting } from '../../app/useLater.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { useDeskScope } from './useDeskScope.ts';

/** With fewer lines a stack is read at a glance. */
const LEAST_LINES = 6;

/**
 * Sets lines of a stack apart that have a word, because they are another payee's or of another kind. What tells its
 * lines apart by itself is offered.
 */
export function SplitStackForm({ stack }: { readonly stack: Stack }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const { scope, lane } = useDeskScope();
  const [word, setWord] = useState('');
  const [split, { isLoading }] = linesApi.useSplitStackMutation();
  const { key: stem, grouping, direction, count } = stack;
  const isResting = useIsResting();
  const isAsked = isResting && lane !== 'decided' && count >= LEAST_LINES;
  const { currentData } = linesApi.useStackPartsQuery(
    isAsked ? { booksId, ...scope, lane, grouping, key: stem, direction } : skipToken,
  );
  const found = currentData?.found ?? null;
  const splitBy = (...words: string[]) => void split({ booksId, stem, words }).then(told);

  return (
    <>
      {found !== null && (
        <div className="stack-parts">
          <p className="mb-1">{partsWords(found)}</p>
          <Button
            variant="plain"
            disabled={isLoading}
            onClick={() => splitBy(...found.parts.map((part) => part.word))}
          >
            {t`Split into ${found.parts.length} stacks`}
          </Button>
        </div>
      )}
      <form
        className="d-flex gap-2 mt-2"
        onSubmit={(event) => {
          event.preventDefault();
          splitBy(word);
        }}
      >
        <input
          className="form-control form-control-sm"
          aria-label={t`Word to split by`}
          placeholder={t`Split this stack by a word`}
          value={word}
          onChange={({ target }) => setWord(target.value)}
        />
        <Button type="submit" variant="plain" disabled={isLoading || word.trim() === ''}>
          {t`Split stack`}
        </Button>
      </form>
    </>
  );
}

/** @example 'This stack holds 2 kinds of lines: TERMINAL 40117730 in 120 lines, 40117748 in 78 lines.' */
function partsWords({ before, parts }: StackParts): string {
  const kinds = parts.map(({ word, count }) => t`${word} in ${countLines(count)}`).join(', ');
  return t`This stack holds ${parts.length} kinds of lines: ${before === null ? '' : `${before} `}${kinds}.`;
}
