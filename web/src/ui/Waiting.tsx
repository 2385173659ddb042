import { Spinner } from 'react-bootstrap';
import { tx } from '../ui/tx.tsx';

/** Shows that something is being fetched, if it takes longer than a blink. */
export function Waiting({ what }: { readonly what: string }) {
  return (
    <div className="waiting" role="status">
      {tx`${<Spinner size="sm" aria-hidden />} Fetching ${what} …`}
    </div>
  );
}
