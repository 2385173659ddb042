import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';

/** Sets lines of a stack apart that have a word, because they are another payee's or of another kind. */
export function SplitStackForm({ stem }: { readonly stem: string }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [word, setWord] = useState('');
  const [split, { isLoading }] = linesApi.useSplitStackMutation();

  return (
    <form
      className="d-flex gap-2 mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void split({ booksId, stem, word }).then(told);
      }}
    >
      <input
        className="form-control form-control-sm"
        aria-label="Word that sets lines apart"
        placeholder="Split this stack by a word"
        value={word}
        onChange={({ target }) => setWord(target.value)}
      />
      <Button type="submit" variant="plain" disabled={isLoading || word.trim() === ''}>
        Split stack
      </Button>
    </form>
  );
}
