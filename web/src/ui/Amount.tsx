import { useBooks } from '../app/useBooks.ts';

/** An amount: a plus and weight for money in, a true minus for money out. */
export function Amount({
  minor,
  currency,
}: {
  readonly minor: number;
  /** In which it is; left out for that of the part of the screen. */
  readonly currency?: string | null;
}) {
  const { amount } = useBooks();
  const shown = amount(minor, { plus: true, ...(currency ? { currency } : {}) });
  return <span className={minor > 0 ? 'money-in' : ''}>{shown}</span>;
}
