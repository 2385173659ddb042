import type { Account } from '@zubrell/contract/books';
import { useState } from 'react';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';

/** Renames an account, or switches it off so that nothing new is coded to it. */
export function AccountChange({ account }: { readonly account: Account }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [change, { isLoading }] = api.useChangeAccountMutation();
  const [name, setName] = useState<string | null>(null);

  async function send(wanted: { readonly name?: string; readonly isOn?: boolean }): Promise<void> {
    told(await change({ booksId, accountId: account.id, ...wanted }));
    setName(null);
  }

  if (name === null) {
    return (
      <span className="account-change">
        <button type="button" className="btn btn-plain" onClick={() => setName(account.name)}>
          Rename
        </button>
        <button
          type="button"
          className="btn btn-plain"
          disabled={isLoading}
          onClick={() => void send({ isOn: !account.isOn })}
        >
          {account.isOn ? 'Switch off' : 'Switch on'}
        </button>
      </span>
    );
  }
  return (
    <form
      className="account-change"
      onSubmit={(event) => {
        event.preventDefault();
        void send({ name });
      }}
    >
      <input
        className="form-control form-control-sm"
        aria-label="New name of the account"
        value={name}
        onChange={({ target }) => setName(target.value)}
      />
      <button type="submit" className="btn btn-main" disabled={isLoading || name.trim() === ''}>
        Rename
      </button>
      <button type="button" className="btn btn-link" onClick={() => setName(null)}>
        Leave it
      </button>
    </form>
  );
}
