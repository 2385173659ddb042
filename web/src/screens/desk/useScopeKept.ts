import { useEffect } from 'react';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { scopeKept } from './deskSlice.ts';
import { useDeskScope } from './useDeskScope.ts';

/** Remembers bank account, period and side, so that coming back to the Desk finds them again. */
export function useScopeKept(): void {
  const { booksId } = useBooks();
  const { bankAccountId, period, side } = useDeskScope();
  const dispatch = useAppDispatch();
  useEffect(() => {
    const query = new URLSearchParams();
    if (bankAccountId !== null) query.set('account', bankAccountId);
    if (period !== null) query.set('period', period);
    if (side !== null) query.set('side', side);
    dispatch(scopeKept({ booksId, query: query.toString() }));
  }, [dispatch, booksId, bankAccountId, period, side]);
}
